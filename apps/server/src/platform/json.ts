declare const shape: unique symbol;

/** JSON as text that reads as `Value`; sent as it is instead of being read and written once more. */
export type Json<Value> = string & { readonly [shape]: Value };

/** Says of a text that it is JSON of this shape. */
export const jsonOf = <Value>(text: string): Json<Value> => text as Json<Value>;

/** The value itself, for callers that look into it. */
export const parseJson = <Value>(json: Json<Value>): Value => JSON.parse(json) as Value;
