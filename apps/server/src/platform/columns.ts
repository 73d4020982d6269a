import { Column, Index, JoinColumn, ManyToOne, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

type OnDelete = 'CASCADE' | 'RESTRICT' | 'SET NULL';

/** A primary key handed out by the database. */
export const Key = (): PropertyDecorator => PrimaryGeneratedColumn('uuid');

/** A foreign key column `…Id` with its constraint; `SET NULL` makes it optional. An entity of a higher floor is given by its name. */
export function Ref(
  target: (() => new () => object) | string,
  more: { readonly onDelete: OnDelete; readonly isOptional?: boolean; readonly isIndexed?: boolean; readonly isKey?: boolean },
): PropertyDecorator {
  return (prototype, property) => {
    const column = String(property).replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
    const relation = String(property).replace(/Id$/, '');
    const nullable = more.isOptional ?? more.onDelete === 'SET NULL';
    if (more.isKey === true) PrimaryColumn('uuid')(prototype, property);
    else Column('uuid', { nullable })(prototype, property);
    ManyToOne(target, { onDelete: more.onDelete, nullable })(prototype, relation);
    JoinColumn({ name: column })(prototype, relation);
    if (more.isIndexed === true) Index()(prototype, property);
  };
}

/** A calendar day, read and written as ISO text. */
export const DayColumn = (options: { readonly nullable?: boolean } = {}): PropertyDecorator => Column('date', options);

/** A short choice kept as text; its values are checked by a constraint on the table. */
export const Choice = (options: { readonly default?: string; readonly nullable?: boolean } = {}): PropertyDecorator =>
  Column('text', options);

/** `column IN (…)` for a check constraint. */
export const oneOf = (column: string, values: readonly string[]): string =>
  `"${column}" IN (${values.map((value) => `'${value}'`).join(', ')})`;
