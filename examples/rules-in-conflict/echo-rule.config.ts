import { settings } from 'echo-rule/config';

export default settings({ rules: ['rules/*.rules.ts'], output: 'echo' });
