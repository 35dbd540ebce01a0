import { unzlibSync } from 'fflate';

const WOFF = 0x774f4646;
const HEADER = 44;
const ENTRY = 20;

/**
 * The raw font (sfnt) in a WOFF 1.0 file (W3C WOFF §4–5); a file that is not WOFF comes back as it is.
 * Throws a RangeError for a file that ends early.
 */
export function toSfnt(file: Uint8Array): Uint8Array {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  if (file.byteLength < 12 || view.getUint32(0) !== WOFF) return file;
  const count = view.getUint16(12);
  const tables = Array.from({ length: count }, (_, i) => {
    const at = HEADER + i * ENTRY;
    const [offset, packed, length] = [
      view.getUint32(at + 4),
      view.getUint32(at + 8),
      view.getUint32(at + 12),
    ];
    const raw = file.subarray(offset, offset + packed);
    return {
      tag: view.getUint32(at),
      checksum: view.getUint32(at + 16),
      data: packed < length ? unzlibSync(raw, { out: new Uint8Array(length) }) : raw,
    };
  });
  const aligned = (n: number) => (n + 3) & ~3;
  const start = 12 + count * 16;
  const out = new Uint8Array(tables.reduce((sum, t) => sum + aligned(t.data.length), start));
  const to = new DataView(out.buffer);
  const power = Math.floor(Math.log2(Math.max(1, count)));
  to.setUint32(0, view.getUint32(4));
  to.setUint16(4, count);
  to.setUint16(6, 16 * 2 ** power);
  to.setUint16(8, power);
  to.setUint16(10, count * 16 - 16 * 2 ** power);
  let at = start;
  for (const [i, t] of tables.entries()) {
    const entry = 12 + i * 16;
    to.setUint32(entry, t.tag);
    to.setUint32(entry + 4, t.checksum);
    to.setUint32(entry + 8, at);
    to.setUint32(entry + 12, t.data.length);
    out.set(t.data, at);
    at += aligned(t.data.length);
  }
  return out;
}
