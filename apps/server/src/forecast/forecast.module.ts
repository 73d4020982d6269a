import { job, type Area } from '../platform/area.ts';
import { ForecastController } from './forecast.controller.ts';
import { KeptForecast } from './forecast.entity.ts';
import { KeepForecast } from './keep-forecast.ts';

export const forecast: Area = {
  controllers: [ForecastController],
  providers: [KeepForecast],
  entities: [KeptForecast],
  jobs: [
    job({
      name: 'forecast-all',
      by: KeepForecast,
      run: (handler, _payload, signal) => handler.keepUp(signal),
      at: '* * * * *',
      isAlone: true,
    }),
  ],
};
