import Bowser from 'bowser';

/** The browser and system in words, as `Firefox on Linux`; programs are named as they name themselves. */
export function deviceWords(userAgent: string): string {
  if (userAgent === '') return 'unknown program';
  const { browser, os } = Bowser.parse(userAgent);
  if (browser.name === undefined || browser.name === '') return userAgent.slice(0, 60);
  return os.name === undefined ? browser.name : `${browser.name} on ${os.name}`;
}
