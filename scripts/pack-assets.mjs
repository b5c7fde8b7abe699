/** Packs the built files once, as small as they go, instead of at every request. */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

const PACKED = /\.(js|css|svg)$/;

export async function packAssets(folder) {
  for (const name of readdirSync(folder).filter((file) => PACKED.test(file))) {
    const file = join(folder, name);
    const bytes = readFileSync(file);
    const options = {
      params: {
        [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY,
        [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length,
      },
    };
    writeFileSync(`${file}.br`, await promisify(brotliCompress)(bytes, options));
    writeFileSync(`${file}.gz`, await promisify(gzip)(bytes, { level: 9 }));
  }
}
