// npm run schemas: writes the published JSON Schemas from the contract.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';
import { fileKinds, publishedSchema } from '../contract/src/files.ts';
import { root } from './lib.mjs';

const options = await resolveConfig(join(root, 'docs/schemas/kit.schema.json'));
for (const kind of fileKinds) {
  const text = await format(JSON.stringify(publishedSchema(kind)), { ...options, parser: 'json' });
  writeFileSync(join(root, 'docs/schemas', `${kind}.schema.json`), text);
}
