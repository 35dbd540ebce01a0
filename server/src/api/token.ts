import * as v from 'valibot';
import { tokenHash } from '../access/secrets.js';
import { notFound } from '../problem.js';

/** 256 bits as base64url (RFC 4648 §5). */
const Token = v.pipe(v.string(), v.regex(/^[\w-]{43}$/));

/** The hash of a token in an address; what is none names nothing. */
export function parseToken(value: unknown, what: string): string {
  const parsed = v.safeParse(Token, value);
  if (!parsed.success) throw notFound(what);
  return tokenHash(parsed.output);
}
