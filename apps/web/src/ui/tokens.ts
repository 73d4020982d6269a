import { createGlobalStyle } from 'styled-components';

/** The tokens of the design as custom properties; dark has the same roles. */
const LIGHT = `
  --ink: #14262a; --ink-2: #4a5a5c; --ink-3: #5f6c69; --ground: #e9ede8; --panel: #fbfcfa; --sunk: #f1f4f0;
  --line: #d3dad2; --line-2: #e3e8e2; --petrol: #0b5d57; --petrol-mid: #6ba39c; --petrol-soft: #d3e5e1; --on-petrol: #ffffff;
  --brick: #b8331a; --brick-soft: #f6ddd5; --amber: #9a5b00; --amber-soft: #f5e6c8; --moss: #3d6b35; --moss-soft: #dfead8;
  --ember: #d97b3f; --bar: #14262a; --bar-2: #26404a; --bar-ink: #dce6e1; --chip: #cddad4; --joint: #9aa6a0;
  --hue-blue: #2f6f9f; --hue-leaf: #6d8f2a; --hue-plum: #a04a6b; --hue-violet: #5a4fa0; --hue-ochre: #a9722d;
  --hue-teal: #1f8a80; --hue-umber: #7d5a4a; --hue-olive: #8a8f1f; --hue-slate: #5d7078;
  color-scheme: light;
`;
const DARK = `
  --ink: #e6eeea; --ink-2: #aebdb8; --ink-3: #8fa09b; --ground: #0f1a1c; --panel: #162427; --sunk: #122023;
  --line: #2a3b3e; --line-2: #223235; --petrol: #5fb8aa; --petrol-mid: #3f9385; --petrol-soft: #1d3f3d; --on-petrol: #0c1a1b;
  --brick: #ef8a72; --brick-soft: #45251e; --amber: #e2b25c; --amber-soft: #3e3219; --moss: #8cc27f; --moss-soft: #23361f;
  --ember: #e08a50; --bar: #0a1416; --bar-2: #203438; --bar-ink: #cfdcd6; --chip: #2f4446; --joint: #5c6e6d;
  --hue-blue: #4a97d0; --hue-leaf: #93bf3c; --hue-plum: #d0648d; --hue-violet: #7d70d8; --hue-ochre: #d9963f;
  --hue-teal: #2bb5a8; --hue-umber: #ab7d68; --hue-olive: #b8be2d; --hue-slate: #8098a2;
  color-scheme: dark;
`;

export const GlobalStyle = createGlobalStyle`
  :root { ${LIGHT} }
  @media screen and (prefers-color-scheme: dark) { :root:not([data-theme='light']) { ${DARK} } }
  @media screen { :root[data-theme='dark'] { ${DARK} } }
  :root { --row: 31px; }
  :root[data-rows='roomy'] { --row: 38px; }
  * { box-sizing: border-box; }
  html { -webkit-text-size-adjust: 100%; }
  body {
    margin: 0; background: var(--ground); color: var(--ink);
    font: 400 13.5px/1.45 'Hanken Grotesk Variable', system-ui, sans-serif; font-variant-numeric: tabular-nums;
  }
  h1, h2, h3 { font-family: 'Bricolage Grotesque Variable', 'Hanken Grotesk Variable', sans-serif; margin: 0; line-height: 1.2; letter-spacing: -0.005em; }
  h1 { font-size: 23px; font-weight: 700; }
  h2 { font-size: 16px; font-weight: 650; }
  h3 { font-size: 12.5px; font-weight: 650; font-family: inherit; letter-spacing: 0; }
  p { margin: 0; }
  ul, ol { margin: 0; padding: 0; list-style: none; }
  button, input, textarea, select { font: inherit; color: inherit; }
  a { color: inherit; }
  :focus-visible, [data-focus-visible] { outline: 2px solid var(--petrol); outline-offset: 2px; }
  ::selection { background: var(--petrol-soft); }
  @page { size: A4 landscape; margin: 10mm; }
  @media print {
    body { background: #fff; print-color-adjust: exact; }
    [data-screen-only] { display: none !important; }
  }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { transition: none !important; animation: none !important; } }
`;

/** Below this the bottom bar takes over and sheets fill the screen. */
export const phone = '@media (max-width: 720px)';
/** Below this a page of two columns becomes one. */
export const narrow = '@media (max-width: 1000px)';

/** The custom property of a client's hue. */
export const hueVar = (hue: string): string => `var(--hue-${hue})`;

/** For screen readers only. */
export const hiddenText = `
  position: absolute; width: 1px; height: 1px; margin: -1px; padding: 0; overflow: hidden; clip-path: inset(50%); white-space: nowrap; border: 0;
`;
