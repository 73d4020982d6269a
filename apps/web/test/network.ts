/** What the network answered next, and what it was asked: the line between this application and its server. */
export interface Network {
  readonly asked: readonly { readonly method: string; readonly path: string; readonly body: unknown; readonly token: string | null }[];
  /** Answers every request to `METHOD /path` from now on; to `METHOD /path…`, whatever is asked of it. */
  readonly answer: (request: string, status: number, body?: unknown) => void;
  /** Answers with one line of JSON after the other. */
  readonly answerInLines: (request: string, lines: readonly unknown[]) => void;
  /** As a cable that is pulled out. */
  readonly cut: () => void;
}

/** Stands in for the network of the browser until the test ends. */
export function scriptNetwork(): Network {
  const asked: { method: string; path: string; body: unknown; token: string | null }[] = [];
  const answers = new Map<string, { readonly status: number; readonly body: unknown; readonly lines?: readonly unknown[] }>();
  let isCut = false;
  globalThis.fetch = ((address: string, options: RequestInit = {}) => {
    const method = options.method ?? 'GET';
    const path = address.replace(/^\/api/, '');
    const headers = new Headers(options.headers);
    asked.push({
      method,
      path,
      body: typeof options.body === 'string' ? JSON.parse(options.body) : undefined,
      token: headers.get('X-Crew-Token'),
    });
    if (isCut) return Promise.reject(new TypeError('Failed to fetch'));
    const [place = ''] = path.split('?');
    const found = answers.get(`${method} ${path}`) ??
      answers.get(`${method} ${place}…`) ?? {
        status: 404,
        body: { code: 'not-found', message: `Nothing answers ${path} here.` },
      };
    return Promise.resolve({
      ok: found.status < 400,
      status: found.status,
      headers: { get: () => null },
      body: found.lines === undefined ? null : { getReader: () => readerOf(found.lines ?? []) },
      json: () => (found.body === undefined ? Promise.reject(new SyntaxError('no JSON')) : Promise.resolve(found.body)),
    } as unknown as Response);
  }) as typeof fetch;
  return {
    asked,
    answer: (request, status, body) => void answers.set(request, { status, body }),
    answerInLines: (request, lines) => void answers.set(request, { status: 201, body: undefined, lines }),
    cut: () => void (isCut = true),
  };
}

/** Each line in two parts, cut in the middle, as they may come over a wire. */
function readerOf(lines: readonly unknown[]) {
  const encoder = new TextEncoder();
  const parts = lines.flatMap((line) => {
    const bytes = encoder.encode(`${JSON.stringify(line)}\n`);
    return [bytes.slice(0, 5), bytes.slice(5)];
  });
  return { read: () => Promise.resolve(parts.length === 0 ? { done: true } : { done: false, value: parts.shift() }) };
}

/** As much of the browser's headers as the client uses. */
class Headers {
  private readonly values: Readonly<Record<string, string>>;
  constructor(values: RequestInit['headers']) {
    this.values = (values ?? {}) as Record<string, string>;
  }
  get(name: string): string | null {
    return this.values[name] ?? null;
  }
}
