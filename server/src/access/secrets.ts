import { createHash, randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';

/** A token of 256 random bits, as letters that stand in an address. */
export const makeToken = (): string => randomBytes(32).toString('base64url');

/** What of a token is kept: who reads the database cannot use it. A token has no pattern to guess, so that one round is enough. */
export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');

/** The cost of a password's hash: 2^15 rounds over 32 MB (RFC 7914 §2), about a tenth of a second. */
const COST: ScryptOptions = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };
const KEY_BYTES = 32;
const SALT_BYTES = 16;

const derive = (password: string, salt: Buffer): Promise<Buffer> =>
  new Promise((resolve, reject) => {
    // Alike letters that are made up differently are one password (NIST SP 800-63B §5.1.1.2).
    scrypt(password.normalize('NFKC'), salt, KEY_BYTES, COST, (error, key) => {
      if (error) reject(error);
      else resolve(key);
    });
  });

/** A password as it is kept: `salt.key`, both base64url. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(SALT_BYTES);
  return `${salt.toString('base64url')}.${(await derive(password, salt)).toString('base64url')}`;
}

/** Whether it is the password that was kept. It takes as long whether there is one or not, so that names cannot be probed. */
export async function isPassword(password: string, kept: string | undefined): Promise<boolean> {
  const [salt = '', key = ''] = (kept ?? '').split('.');
  const wanted = Buffer.from(key, 'base64url');
  const found = await derive(password, Buffer.from(salt, 'base64url'));
  return wanted.length === KEY_BYTES && timingSafeEqual(found, wanted);
}
