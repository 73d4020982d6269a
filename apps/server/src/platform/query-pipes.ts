import { Injectable, type ArgumentMetadata, type PipeTransform } from '@nestjs/common';
import { NO_DAY } from '@crew/contract';
import { isPlannableDay, type IsoDay } from '@crew/core';
import { isUUID } from 'class-validator';
import { Refusal } from './refusal.ts';

/** A day in the query, which may be left out; given twice it is none. */
@Injectable()
export class OptionalDay implements PipeTransform<unknown, IsoDay | undefined> {
  transform(value: unknown, { data }: ArgumentMetadata): IsoDay | undefined {
    if (value === undefined || isPlannableDay(value)) return value;
    throw new Refusal('invalid-day', NO_DAY, { field: data ?? 'day' });
  }
}

/** The id in an address; anything else is not found. */
@Injectable()
export class PathId implements PipeTransform<unknown, string> {
  transform(value: unknown): string {
    if (typeof value === 'string' && isUUID(value)) return value;
    throw new Refusal('not-found', 'There is nothing at this address. Check the link.');
  }
}

/** An id in the query. */
@Injectable()
export class RequiredId implements PipeTransform<unknown, string> {
  transform(value: unknown, { data }: ArgumentMetadata): string {
    if (typeof value === 'string' && isUUID(value)) return value;
    throw new Refusal('invalid-input', 'This is not a valid id. Choose one from the list.', { field: data ?? 'id' });
  }
}

/** An id in the query, which may be left out. */
@Injectable()
export class OptionalId implements PipeTransform<unknown, string | undefined> {
  transform(value: unknown, { data }: ArgumentMetadata): string | undefined {
    if (value === undefined || (typeof value === 'string' && isUUID(value))) return value;
    throw new Refusal('invalid-input', 'This is not a valid id. Choose one from the list.', { field: data ?? 'id' });
  }
}

/** A word in the query, which may be left out; given twice it is none. */
@Injectable()
export class OptionalWord implements PipeTransform<unknown, string | undefined> {
  transform(value: unknown, { data }: ArgumentMetadata): string | undefined {
    if (value === undefined || (typeof value === 'string' && value.length <= 2000)) return value;
    throw new Refusal('invalid-input', 'Give this once.', { field: data ?? 'query' });
  }
}

/** One of a few words in the query, which may be left out. */
export class OptionalChoice<Choice extends string> implements PipeTransform<unknown, Choice | undefined> {
  private readonly choices: readonly Choice[];
  constructor(choices: readonly Choice[]) {
    this.choices = choices;
  }

  transform(value: unknown, { data }: ArgumentMetadata): Choice | undefined {
    if (value === undefined || this.choices.includes(value as Choice)) return value as Choice | undefined;
    throw new Refusal('invalid-input', `Choose one of ${this.choices.join(', ')}.`, { field: data ?? 'query' });
  }
}

/** The id of an event in the query, a whole number as text, which may be left out. */
@Injectable()
export class OptionalEventId implements PipeTransform<unknown, string | undefined> {
  transform(value: unknown, { data }: ArgumentMetadata): string | undefined {
    if (value === undefined || (typeof value === 'string' && /^\d{1,18}$/.test(value))) return value;
    throw new Refusal('invalid-input', 'This is no id of an event. Take it from the page before.', { field: data ?? 'before' });
  }
}
