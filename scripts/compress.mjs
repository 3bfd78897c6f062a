/**
 * The built site, compressed once: whoever asks for a file is sent what lies here, and nothing is compressed while one waits.
 *
 *     node compress.mjs SITE
 */
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const TEXT = /\.(js|mjs|css|html|svg|json|webmanifest|wasm)$/;
const WORTH_IT = 1000;
const SMALL = 1_000_000;
/** The best, for what every first visit waits for; over Python itself it takes a minute, for a few per cent. */
const quality = (size) => (size < SMALL ? 11 : 9);

const [site] = process.argv.slice(2);
for (const name of readdirSync(site, { recursive: true })) {
  if (!TEXT.test(name)) continue;
  const path = join(site, name);
  const text = readFileSync(path);
  if (text.length < WORTH_IT) continue;
  writeFileSync(`${path}.gz`, gzipSync(text, { level: 9 }));
  writeFileSync(
    `${path}.br`,
    brotliCompressSync(text, { params: { [constants.BROTLI_PARAM_QUALITY]: quality(text.length) } }),
  );
}
