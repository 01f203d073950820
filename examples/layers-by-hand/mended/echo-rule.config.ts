import { settings } from 'echo-rule/config';
import { layers } from '../layers.ts';

export default settings({
  rules: ['../../kiln-bookings/rules/*.rules.ts'],
  output: '../../kiln-bookings/echo',
  layers,
});
