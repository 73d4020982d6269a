/** The keys of changes that have not been answered for good, by what they say. */
const keys = new Map<string, string>();

/** Pages that are not served by TLS have no ready-made ids. */
const newKey = (): string => Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, '0')).join('');

/** Whether a refusal leaves open what became of the change: the line broke, or the server had no time. */
const isOpen = (error: unknown): boolean => {
  const code = (error as { readonly code?: string } | null)?.code;
  return code === undefined || code === 'no-connection' || code === 'unavailable' || code === 'internal-fault';
};

/**
 * Sends a change with a key by which the server knows it again. The same change has the same key
 * until it has been answered: pressed twice, or sent once more over a line that broke, it is
 * done once, and both get the same answer. What is asked for anew after that is a new change.
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
