import 'reflect-metadata';
import { TextDecoder, TextEncoder } from 'node:util';
import { configure } from '@testing-library/dom';

// What jsdom leaves out and the kit needs.
class QuietObserver {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}

Object.assign(globalThis, {
  TextEncoder,
  TextDecoder,
  ResizeObserver: QuietObserver,
  scrollTo: () => undefined,
  CSS: { escape: (text: string) => text.replace(/[^\w-]/g, '\\$&') },
  matchMedia: () => ({ matches: false, addEventListener: () => undefined, removeEventListener: () => undefined }),
});

// What is waited for may come late on a slow machine; only what never comes fails.
configure({ asyncUtilTimeout: 15_000 });

// jsdom has no canvas; charts measure their texts on one and do without where there is none.
HTMLCanvasElement.prototype.getContext = () => null;
