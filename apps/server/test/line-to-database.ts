import { connect, createServer, type AddressInfo, type Socket } from 'node:net';

/** A line between the server and its database that can break or fall silent. */
export interface Line {
  readonly port: number;
  /** Every connection breaks, and none can be made. */
  readonly cut: () => void;
  /** Nothing comes through any more, in either direction; connections stay. */
  readonly freeze: () => void;
  /** As it was. */
  readonly mend: () => void;
  readonly close: () => Promise<void>;
}

/** Lays a line to the database of the tests. */
export async function openLine(): Promise<Line> {
  const target = new URL(process.env['CREW_TEST_SERVER'] ?? '');
  const sockets = new Set<Socket>();
  let state: 'whole' | 'cut' | 'frozen' = 'whole';
  const server = createServer((near) => {
    if (state === 'cut') return near.destroy();
    const far = connect(Number(target.port), target.hostname);
    for (const [from, to] of [
      [near, far],
      [far, near],
    ] as const) {
      sockets.add(from);
      from.on('data', (data) => state !== 'frozen' && to.write(data));
      from.on('error', () => undefined);
      from.on('close', () => {
        sockets.delete(from);
        to.destroy();
      });
    }
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const breakAll = (): void => sockets.forEach((socket) => socket.destroy());
  return {
    port: (server.address() as AddressInfo).port,
    cut: () => {
      state = 'cut';
      breakAll();
    },
    freeze: () => {
      state = 'frozen';
    },
    mend: () => {
      // What was swallowed is gone for good: such a connection is of no use.
      if (state === 'frozen') breakAll();
      state = 'whole';
    },
    close: () => {
      breakAll();
      return new Promise((resolve) => server.close(() => resolve()));
    },
  };
}
