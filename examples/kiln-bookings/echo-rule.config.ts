import { settings } from 'echo-rule/config';
import { formLayer, functionLayer, postgresqlLayer, sqliteLayer } from 'echo-rule/layers';

export default settings({
  rules: ['rules/*.rules.ts'],
  output: 'echo',
  records: { kiln: 'records/kiln.jsonl' },
  layers: {
    server: functionLayer(),
    form: formLayer(),
    postgresql: postgresqlLayer(),
    sqlite: sqliteLayer(),
  },
});
