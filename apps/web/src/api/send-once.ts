/** The keys of changes that have not been answered for good, by what they say. */
const keys = new Map<string, string>();

/** Pages that are not served by TLS have no `randomUUID`. */
const newKey = (): string => Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('');

/** Whether it is unknown what became of the change: the connection broke, or the server had no time. */
const isOpen = (error: unknown): boolean => {
  const code = (error as { readonly code?: string } | null)?.code;
  return code === undefined || code === 'no-connection' || code === 'unavailable' || code === 'internal-fault';
};

/**
 * Sends a change with a key by which the server recognises it. The same change keeps its key until it
 * has been answered: pressed twice, or sent again over a connection that broke, it is done once, and
 * both get the same answer. After that the same request is a new change.
 */
export async function sendOnce<Answer>(said: string, send: (key: string) => Promise<Answer>): Promise<Answer> {
  const key = keys.get(said) ?? newKey();
  keys.set(said, key);
  try {
    const answer = await send(key);
    forget(said, key);
    return answer;
  } catch (error) {
    if (!isOpen(error)) forget(said, key);
    throw error;
  }
}

function forget(said: string, key: string): void {
  if (keys.get(said) === key) keys.delete(said);
}
