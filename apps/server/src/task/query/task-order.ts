import type { TaskQuery, TaskSort } from '@crew/contract';
import { PRIORITY, TASK_STATUS } from '@crew/contract';
import { Refusal } from '../../platform/refusal.ts';
import type { Beside } from './task-columns.ts';
import type { Values } from './values.ts';

interface Key {
  /** Never null. */
  readonly sql: string;
  readonly type: 'date' | 'int' | 'text' | 'uuid';
}

interface Order {
  readonly keys: readonly Key[];
  readonly needs: readonly Beside[];
}

const list = (words: readonly string[]): string => `ARRAY[${words.map((word) => `'${word}'`).join(', ')}]`;
const key = (sql: string, type: Key['type']): Key => ({ sql, type });
/** Two engagements have a task of the same number; its id tells them apart. */
const LAST = [key('t.number', 'int'), key('t.id', 'uuid')];

const ORDERS: Readonly<Record<TaskSort, Order>> = {
  due: { keys: [key('t.due_day', 'date'), ...LAST], needs: [] },
  start: { keys: [key('t.start_day', 'date'), ...LAST], needs: [] },
  title: { keys: [key('lower(t.title)', 'text'), ...LAST], needs: [] },
  priority: { keys: [key(`-array_position(${list(PRIORITY)}, t.priority)`, 'int'), key('t.due_day', 'date'), ...LAST], needs: [] },
  status: { keys: [key(`array_position(${list(TASK_STATUS)}, t.status)`, 'int'), key('t.due_day', 'date'), ...LAST], needs: [] },
  plan: {
    keys: [key('lower(e.name)', 'text'), key('e.id', 'uuid'), key('p.position', 'int'), key('t.position', 'int'), ...LAST],
    needs: ['e', 'p'],
  },
};

/** How a page is ordered and where it begins. */
export interface PageOrder {
  readonly orderBy: string;
  /** The values of a row's place, as a JSON list. */
  readonly place: string;
  /** What rows behind the page before have in common; null on the first page. */
  readonly behind: string | null;
  readonly needs: readonly Beside[];
}

/** The order of a query; refuses to go on from what is no place in it. */
export function orderOf({ sort = 'due', isDescending = false, after }: TaskQuery, values: Values): PageOrder {
  const { keys, needs } = ORDERS[sort];
  const direction = isDescending ? ' DESC' : '';
  return {
    needs,
    orderBy: keys.map(({ sql }) => `${sql}${direction}`).join(', '),
    // With the order it is of: in another one it would be somewhere else.
    place: `json_build_array('${sort}', ${keys.map(({ sql }) => sql).join(', ')})`,
    behind: after === undefined ? null : behind(keys, { place: readPlace(after, { sort, keys }), isDescending }, values),
  };
}

function behind(
  keys: readonly Key[],
  { place, isDescending }: { readonly place: readonly (string | number)[]; readonly isDescending: boolean },
  values: Values,
): string {
  const given = keys.map(({ type }, index) => `${values.add(place[index])}::${type}`);
  return `(${keys.map(({ sql }) => sql).join(', ')}) ${isDescending ? '<' : '>'} (${given.join(', ')})`;
}

/** A place in the order of a query, as pages name it. */
export const placeText = (place: readonly (string | number)[]): string => Buffer.from(JSON.stringify(place)).toString('base64url');

const FORMS: Readonly<Record<Key['type'], (value: unknown) => boolean>> = {
  date: (value) => typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value) && !Number.isNaN(Date.parse(value)),
  int: (value) => Number.isInteger(value) && Math.abs(value as number) < 2 ** 31,
  text: (value) => typeof value === 'string' && !value.includes('\0'),
  uuid: (value) => typeof value === 'string' && /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(value),
};

function readPlace(text: string, { sort, keys }: { readonly sort: TaskSort; readonly keys: readonly Key[] }): readonly (string | number)[] {
  const refusal = new Refusal('invalid-input', 'This is not a position in this list. Start with its first page.', { field: 'after' });
  const place = ((): unknown => {
    try {
      return JSON.parse(Buffer.from(text, 'base64url').toString()) as unknown;
    } catch {
      throw refusal;
    }
  })();
  if (!Array.isArray(place) || place.length !== keys.length + 1 || place[0] !== sort) throw refusal;
  const values = place.slice(1) as unknown[];
  if (!keys.every(({ type }, index) => FORMS[type](values[index]))) throw refusal;
  return values as (string | number)[];
}
