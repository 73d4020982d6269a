/** The values of a statement's placeholders, numbered as they are added. */
export class Values {
  readonly list: unknown[];
  constructor(first: readonly unknown[] = []) {
    this.list = [...first];
  }

  /** Answers the placeholder of a value. */
  add(value: unknown): string {
    this.list.push(value);
    return `$${this.list.length}`;
  }

  /** Adds the values of a condition that is made for placeholders from a number on. */
  addCondition(make: (first: number) => { readonly sql: string; readonly values: readonly unknown[] }): string {
    const { sql, values } = make(this.list.length + 1);
    this.list.push(...values);
    return sql;
  }
}
