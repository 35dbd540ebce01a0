import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';
import * as v from 'valibot';

/** An error for the client, sent as RFC 9457 problem details. `detail` is a sentence that says what to do. */
export class Problem extends Error {
  readonly status: number;
  readonly title: string;
  readonly extra: Readonly<Record<string, unknown>>;

  constructor(status: number, title: string, detail: string, extra: Readonly<Record<string, unknown>> = {}) {
    super(detail);
    this.status = status;
    this.title = title;
    this.extra = extra;
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, 'Not found', `There is no such ${what}: it may have been deleted. Go back to the shelf.`);

/** PostgreSQL keeps no text with a NUL in it. */
export const Text = v.pipe(
  v.string(),
  v.check((text) => !text.includes('\0'), 'a text has no NUL in it'),
);

/** Parses input at the edge; what does not fit is a 400 that names the place. */
export function parseInput<T>(schema: v.GenericSchema<unknown, T>, input: unknown): T {
  const result = v.safeParse(schema, input);
  if (result.success) return result.output;
  const [issue] = result.issues;
  const place = v.getDotPath(issue) ?? 'the body';
  throw new Problem(400, 'Wrong input', `The request is wrong at ${place}: ${issue.message.slice(0, 300)}.`);
}

const UUID = v.pipe(v.string(), v.uuid());

/** An id from the address; one that is none cannot be found. */
export function parseId(value: unknown, what: string): string {
  const result = v.safeParse(UUID, value);
  if (!result.success) throw notFound(what);
  return result.output;
}

export const unknownAddress: RequestHandler = (request) => {
  throw new Problem(
    404,
    'Not found',
    `There is nothing at ${request.path.slice(0, 100)}: check the address.`,
  );
};

interface BodyParserError {
  readonly type?: string;
  readonly status?: number;
}

function asProblem(error: unknown): Problem | undefined {
  if (error instanceof Problem) return error;
  const { type, status } = error as BodyParserError;
  if (type === 'entity.too.large')
    return new Problem(413, 'Too large', 'The file is too large: a drawing has at most 20 MB, a font 30 MB.');
  if (type === 'entity.parse.failed') return new Problem(400, 'Wrong input', 'The request body is not JSON.');
  // Addresses and bodies that cannot be read at all: their encoding, their length, what was broken off.
  if (status !== undefined && status >= 400 && status < 500)
    return new Problem(
      status,
      'Wrong input',
      'The request cannot be read as it came: check its address, its type and its encoding.',
    );
  return undefined;
}

/** Sends every error as problem details; what was not foreseen is logged and told without its inside. */
export function problemHandler(logger: Logger): ErrorRequestHandler {
  // Express tells error handlers by their four parameters.
  return (error: unknown, request, response, _next) => {
    const problem =
      asProblem(error) ??
      new Problem(500, 'Server error', 'Something went wrong on the server; nothing was changed. Try again.');
    if (problem.status >= 500) logger.error({ err: error, url: request.url }, 'unforeseen error');
    response
      .status(problem.status)
      .type('application/problem+json')
      .send(
        JSON.stringify({
          type: 'about:blank',
          title: problem.title,
          status: problem.status,
          detail: problem.message,
          ...problem.extra,
        }),
      );
  };
}
