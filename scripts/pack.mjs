// node scripts/pack.mjs FOLDER: lays a Brotli copy beside each file, which the server sends as it is.
// Quality 9 of 11: a tenth larger than the best, in a tenth of its time (2.5 s against 28 s for the engine).
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants } from 'node:zlib';

const folder = process.argv[2];
for (const name of readdirSync(folder)) {
  const file = readFileSync(join(folder, name));
  const params = { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: file.length };
  writeFileSync(join(folder, `${name}.br`), brotliCompressSync(file, { params }));
}
