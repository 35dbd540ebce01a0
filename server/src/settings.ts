import * as v from 'valibot';

const LEVELS = ['trace', 'debug', 'info', 'warn', 'error', 'fatal', 'silent'] as const;

const Url = (kinds: RegExp, example: string) =>
  v.pipe(
    v.string(),
    v.check((text) => URL.canParse(text) && kinds.test(new URL(text).protocol), `write ${example}`),
  );
const PORTS = 'write a number from 0 to 65535';

const Settings = v.object({
  DATABASE_URL: v.optional(
    Url(/^postgres(?:ql)?:$/, 'an address like postgres://name@127.0.0.1:5432/tinfold'),
  ),
  PORT: v.optional(
    v.pipe(v.string(), v.regex(/^\d{1,5}$/, PORTS), v.transform(Number), v.maxValue(65_535, PORTS)),
    '4317',
  ),
  HOST: v.optional(v.string()),
  PUBLIC_URL: v.optional(Url(/^https?:$/, 'an address like https://ferry.example')),
  METRICS_TOKEN: v.optional(
    v.pipe(v.string(), v.minLength(16, 'take at least 16 letters that nobody guesses')),
  ),
  LOG_LEVEL: v.optional(v.picklist(LEVELS, `write one of ${LEVELS.join(', ')}`), 'warn'),
});

export type Settings = v.InferOutput<typeof Settings>;

/** The settings in an environment; throws an error with a sentence for the first that cannot be meant. */
export function settingsIn(environment: Readonly<Record<string, string | undefined>>): Settings {
  // A variable that is set to nothing is not set.
  const set = Object.entries(environment).filter(([, value]) => value !== undefined && value !== '');
  const result = v.safeParse(Settings, Object.fromEntries(set));
  if (result.success) return result.output;
  const [issue] = result.issues;
  const name = v.getDotPath(issue) ?? '';
  // A token is not written anywhere.
  const given = name === 'METRICS_TOKEN' ? '' : ` is “${environment[name] ?? ''}”`;
  throw new Error(`The setting ${name}${given}: ${issue.message}.`);
}
