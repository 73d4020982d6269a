import type { TemplateFault } from './types.ts';

/** An object of a file, nothing known of it yet. */
export type Item = Readonly<Record<string, unknown>>;

/** Lags and offsets lie within this many days either way; counts within ten times that. */
export const MOST = 100_000;

/**
 * Reads value by value and keeps every fault with its place as a JSON pointer; a faulty value is read
 * as its default, so that reading goes on and finds the rest.
 */
export class ValueReader {
  readonly faults: TemplateFault[] = [];

  protected fault(at: string, message: string): void {
    this.faults.push({ at: at === '' ? '/' : at, message });
  }

  protected object(value: unknown, at: string): Item | null {
    if (typeof value === 'object' && value !== null && !Array.isArray(value)) return value as Item;
    this.fault(at, 'Here an object is expected.');
    return null;
  }

  protected raw(part: Item, field: string): Item[] {
    const value = part[field];
    return Array.isArray(value) ? value.filter((item): item is Item => typeof item === 'object' && item !== null) : [];
  }

  protected items(part: Item, field: string, at: string): Item[] {
    const value = part[field];
    if (value === undefined) return [];
    if (!Array.isArray(value)) {
      this.fault(`${at}/${field}`, 'Here a list is expected.');
      return [];
    }
    const objects = value.map((item: unknown, index) => this.object(item, `${at}/${field}/${index}`));
    return objects.filter((item) => item !== null);
  }

  protected texts(part: Item, field: string, at: string): string[] {
    const value = part[field];
    if (value === undefined) return [];
    if (Array.isArray(value) && value.every((item) => typeof item === 'string' && item.trim() !== ''))
      return value.map((item: string) => item.trim());
    this.fault(`${at}/${field}`, 'Here a list of words is expected.');
    return [];
  }

  protected line(part: Item, at: string, longest: number): string {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (typeof value !== 'string' || value.trim() === '') this.fault(at, 'Here some words are expected.');
    else if (value.length > longest) this.fault(at, `Keep this to ${longest} characters.`);
    else return value.trim();
    return '';
  }

  /** Only of the web: an address that runs something must not travel in a file. */
  protected address(part: Item, at: string): string {
    const url = this.line(part, at, 2000);
    if (url !== '' && !/^https?:\/\/\S+$/.test(url)) this.fault(at, 'A web address begins with https://.');
    return url;
  }

  protected text(part: Item, at: string): string {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (value === undefined) return '';
    if (typeof value === 'string' && value.length <= 20_000) return value;
    this.fault(at, 'Here a text of at most 20 000 characters is expected.');
    return '';
  }

  protected whole(part: Item, at: string, { least, usual }: { readonly least: number; readonly usual?: number }): number {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (value === undefined && usual !== undefined) return usual;
    if (typeof value === 'number' && Number.isSafeInteger(value) && value >= least && value <= MOST * 10) return value;
    this.fault(at, least > -MOST ? `Here a whole number of at least ${least} is expected.` : 'Here a whole number is expected.');
    return Math.max(0, least);
  }

  protected choice(part: Item, at: string, { choices, usual }: { readonly choices: readonly string[]; readonly usual?: string }): string {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (value === undefined && usual !== undefined) return usual;
    if (typeof value === 'string' && choices.includes(value)) return value;
    this.fault(at, `Here one of ${choices.join(', ')} is expected.`);
    return usual ?? (choices[0] as string);
  }

  protected yes(part: Item, at: string, usual: boolean): boolean {
    const value = part[at.slice(at.lastIndexOf('/') + 1)];
    if (value === undefined) return usual;
    if (typeof value === 'boolean') return value;
    this.fault(at, 'Here true or false is expected.');
    return usual;
  }

  protected known(part: Item, at: string, fields: readonly string[]): void {
    for (const field of Object.keys(part)) if (!fields.includes(field)) this.fault(`${at}/${field}`, `There is no field “${field}” here.`);
  }
}
