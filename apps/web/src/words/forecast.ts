import type { EngagementTrack } from '@crew/contract';
import type { IsoDay } from '@crew/core';
import { dayWithoutYear, shortDay } from './format.ts';

/** " · likely 11 Dec", or nothing where there is no forecast. */
export const likelyWords = ({ forecast }: Pick<EngagementTrack, 'forecast'>): string =>
  forecast === null ? '' : ` · likely ${dayWithoutYear(forecast.likely)}`;

/** "Likely finished by 11 Dec, safely by 22 Dec; the promise is met in 71 % of runs", or nothing where there is no forecast. */
export function forecastSentence({ forecast }: Pick<EngagementTrack, 'forecast'>, today: IsoDay): string {
  if (forecast === null) return '';
  const days = `Likely finished by ${shortDay(forecast.likely, today)}, safely by ${shortDay(forecast.safe, today)}`;
  return forecast.chance === null ? days : `${days}; the promise is met in ${forecast.chance} % of runs`;
}
