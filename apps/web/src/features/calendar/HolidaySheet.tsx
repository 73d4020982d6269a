import type { IsoDay } from '@crew/core';
import { can, type AgencyCalendar, type AgencySettings, type CalendarChanged, type PublicHoliday } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useHolidayCountries, useHolidays, useSettings } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { ErrorNote, Inline, Loading } from '../../ui/layout.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { Note } from '../../ui/text.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count, plainDay } from '../../words/format.ts';
import { CalendarEffectNote } from './CalendarEffectNote.tsx';
import { daysOfYears, type TickableHoliday } from './holidays.ts';

const Days = styled.ul`
  margin: 6px 0 10px;
  li {
    padding: 3px 0;
  }
  small {
    color: var(--ink-2);
  }
`;

interface HolidaySheetProps {
  readonly calendar: AgencyCalendar;
  readonly today: IsoDay;
  readonly onClose: () => void;
}

/** Public holidays of a country and region as a list to tick; the ticked ones are closed. */
export function HolidaySheet({ calendar, today, onClose }: HolidaySheetProps) {
  const { data: countries, error } = useHolidayCountries();
  const { data: settings } = useSettings();
  return (
    <Sheet label="Public holidays" line="Calendar" onClose={onClose}>
      <SheetTitle>Public holidays</SheetTitle>
      {error ? (
        <ErrorNote error={error} />
      ) : countries === undefined || settings === undefined ? (
        <Loading rows={6} />
      ) : (
        <PlaceChoice {...{ calendar, today, countries, settings, onClose }} />
      )}
    </Sheet>
  );
}

const NO_REGION = '-';

interface PlaceProps extends HolidaySheetProps {
  readonly countries: readonly { readonly id: string; readonly name: string; readonly regions: readonly { id: string; name: string }[] }[];
  readonly settings: AgencySettings;
}

function PlaceChoice({ countries, settings, ...rest }: PlaceProps) {
  const [country, setCountry] = useState(settings.country);
  const [region, setRegion] = useState(settings.region);
  const regions = countries.find(({ id }) => id === country)?.regions ?? [];
  return (
    <>
      <Choose
        label="Country"
        isTight
        placeholder="Choose a country"
        choices={countries.map(({ id, name }) => ({ id, name }))}
        value={country}
        onChange={(next) => {
          setCountry(next);
          setRegion(null);
        }}
      />
      {regions.length === 0 ? null : (
        <Choose
          label="Region"
          isTight
          choices={[{ id: NO_REGION, name: 'Whole country' }, ...regions]}
          value={region ?? NO_REGION}
          onChange={(next) => setRegion(next === NO_REGION ? null : next)}
        />
      )}
      {country === null ? (
        <Note>Choose your country: you see its public holidays and close the ones you keep.</Note>
      ) : (
        <HolidayList key={`${country} ${region ?? ''}`} place={{ country, region }} settings={settings} {...rest} />
      )}
    </>
  );
}

interface ListProps extends HolidaySheetProps {
  readonly place: { readonly country: string; readonly region: string | null };
  readonly settings: AgencySettings;
}

/** This year and the next: what is left of one, and all of the other. */
function HolidayList({ place, settings, calendar, today, onClose }: ListProps) {
  const year = Number(today.slice(0, 4));
  const first = useHolidays(place, year);
  const second = useHolidays(place, year + 1);
  if (first.error || second.error) return <ErrorNote error={first.error ?? second.error} />;
  if (first.data === undefined || second.data === undefined) return <Loading rows={8} />;
  const holidays = [...first.data, ...second.data].filter(({ day }) => day >= today);
  return <Ticks {...{ holidays, place, settings, calendar, today, onClose }} />;
}

function Ticks({ holidays, place, settings, calendar, today, onClose }: ListProps & { readonly holidays: readonly PublicHoliday[] }) {
  const me = useWho();
  const years = daysOfYears(holidays, calendar);
  const [ticked, setTicked] = useState(
    () => new Set(years.flatMap(({ days }) => days.filter(({ isProposed }) => isProposed).map(({ day }) => day))),
  );
  const days = holidays.filter(({ day }) => ticked.has(day)).map(({ day, name }) => ({ day, name }));
  const turn = (day: IsoDay): void => setTicked(new Set(ticked.has(day) ? [...ticked].filter((other) => other !== day) : [...ticked, day]));
  const close = async (): Promise<void> => {
    const { isDone } = await perform({
      send: () => call<CalendarChanged>('POST', '/calendar/closed-days', { days }),
      said: `${count(days.length, 'day')} closed. Open work is rescheduled.`,
      undo: ({ changeId }) => changeId,
    });
    if (!isDone) return;
    const isOther = settings.country !== place.country || settings.region !== place.region;
    if (isOther && can(me, 'agency.edit-settings')) await perform({ send: () => call('PATCH', '/settings', place) });
    onClose();
  };
  return (
    <>
      {years.map((each) => (
        <SheetPart key={each.year} aria-label={each.year}>
          <h3>{each.year}</h3>
          <Days>
            {each.days.map((holiday) => (
              <HolidayLine key={holiday.day} holiday={holiday} isTicked={ticked.has(holiday.day)} onTurn={() => turn(holiday.day)} />
            ))}
          </Days>
        </SheetPart>
      ))}
      {days.length === 0 ? null : <CalendarEffectNote change={{ close: days.map(({ day }) => day) }} today={today} />}
      <Inline $gap={8}>
        <Button kind="primary" isDisabled={days.length === 0} onPress={() => void close()}>
          {days.length === 0 ? 'Add closed days' : `Add ${count(days.length, 'closed day')}`}
        </Button>
        <Button kind="quiet" onPress={onClose}>
          Cancel
        </Button>
      </Inline>
    </>
  );
}

interface LineProps {
  readonly holiday: TickableHoliday;
  readonly isTicked: boolean;
  readonly onTurn: () => void;
}

function HolidayLine({ holiday: { day, name, why }, isTicked, onTurn }: LineProps) {
  const words = `${plainDay(day)} · ${name}`;
  return (
    <li>
      {why === 'closed' ? (
        <small>{words} · already closed</small>
      ) : (
        <Tick isSelected={isTicked} onChange={onTurn}>
          {words}
          {why === 'day-off' ? ' · no work on this day anyway' : why === 'optional' ? ' · many work' : ''}
        </Tick>
      )}
    </li>
  );
}
