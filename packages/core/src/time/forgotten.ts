/**
 * Whether a day's time was forgotten: something was open and less than half of it was logged.
 * Minutes; a day without capacity is never forgotten.
 */
export const isTimeForgotten = ({ logged, capacity }: { readonly logged: number; readonly capacity: number }): boolean =>
  capacity > 0 && logged * 2 < capacity;
