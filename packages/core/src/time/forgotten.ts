/**
 * Whether a day's time was probably not logged: the day had working hours and less than half of them
 * were logged. Minutes; a day without capacity never counts.
 */
export const isTimeForgotten = ({ logged, capacity }: { readonly logged: number; readonly capacity: number }): boolean =>
  capacity > 0 && logged * 2 < capacity;
