/** Reads "9:30", "9.30", "930", "9" or "14h15" as a minute of the day; null when it is none of them. */
export function parseClock(text: string): number | null {
  const clean = text.trim().toLowerCase();
  const parted = /^(\d{1,2})[:.h](\d{2})$/.exec(clean) ?? /^(\d{1,2})(\d{2})$/.exec(clean);
  const whole = /^(\d{1,2})$/.exec(clean);
  const [hour, minute] = parted ? [Number(parted[1]), Number(parted[2])] : whole ? [Number(whole[1]), 0] : [NaN, NaN];
  return hour < 24 && minute < 60 ? hour * 60 + minute : null;
}

/** "9:05" of a minute of the day. */
export const clockWords = (minute: number): string => `${Math.floor(minute / 60)}:${String(minute % 60).padStart(2, '0')}`;
