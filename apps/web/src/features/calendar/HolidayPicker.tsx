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
import { ErrorNote, Loading, StickyFoot } from '../../ui/layout.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { Note } from '../../ui/text.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count, plainDay } from '../../words/format.ts';
import { CalendarEffectNote } from './CalendarEffectNote.tsx';
import { daysOfYears, type TickableHoliday } from './holidays.ts';

/** Beside each other where there is room, as on a page of its own. */
const Places = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 4px 14px;
  margin-bottom: 8px;
`;
const Days = styled.ul`
  columns: 340px;
  column-gap: 24px;
  margin: 6px 0 10px;
  li {
    padding: 3px 0;
    break-inside: avoid;
  }
  small {
    color: var(--ink-2);
  }
`;

interface HolidayPickerProps {
  readonly calendar: AgencyCalendar;
  readonly today: IsoDay;
  /** The label of the button when nothing is ticked. */
  readonly cancelWords: string;
  /** Called once the ticked days are closed, or when none is ticked. */
  readonly onClose: () => void;
}

/** Public holidays of a country and region as a list to tick; the ticked ones are closed. */
export function HolidayPicker(props: HolidayPickerProps) {
  const { data: countries, error } = useHolidayCountries();
  const { data: settings } = useSettings();
  if (error) return <ErrorNote error={error} />;
  if (countries === undefined || settings === undefined) return <Loading rows={6} />;
  return <PlaceChoice {...{ ...props, countries, settings }} />;
}

const NO_REGION = '-';

interface PlaceProps extends HolidayPickerProps {
  readonly countries: readonly { readonly id: string; readonly name: string; readonly regions: readonly { id: string; name: string }[] }[];
  readonly settings: AgencySettings;
}

function PlaceChoice({ countries, settings, ...rest }: PlaceProps) {
  const [country, setCountry] = useState(settings.country);
  const [region, setRegion] = useState(settings.region);
  const regions = countries.find(({ id }) => id === country)?.regions ?? [];
  return (
    <>
      <Places>
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
      </Places>
      {country === null ? (
        <Note>Choose your country: you see its public holidays and close the ones you keep.</Note>
      ) : (
        <HolidayList key={`${country} ${region ?? ''}`} place={{ country, region }} settings={settings} {...rest} />
      )}
    </>
  );
}

interface ListProps extends HolidayPickerProps {
  readonly place: { readonly country: string; readonly region: string | null };
  readonly settings: AgencySettings;
}

/** This year and the next: what is left of one, and all of the other. */
function HolidayList({ place, ...rest }: ListProps) {
  const year = Number(rest.today.slice(0, 4));
  const first = useHolidays(place, year);
  const second = useHolidays(place, year + 1);
  if (first.error || second.error) return <ErrorNote error={first.error ?? second.error} />;
  if (first.data === undefined || second.data === undefined) return <Loading rows={8} />;
  const holidays = [...first.data, ...second.data].filter(({ day }) => day >= rest.today);
  return <Ticks {...{ holidays, place, ...rest }} />;
}

function Ticks({
  holidays,
  place,
  settings,
  calendar,
  today,
  cancelWords,
  onClose,
}: ListProps & { readonly holidays: readonly PublicHoliday[] }) {
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
      <StickyFoot $gap={8}>
        <Button kind="primary" isDisabled={days.length === 0} onPress={() => void close()}>
          {days.length === 0 ? 'Add closed days' : `Add ${count(days.length, 'closed day')}`}
        </Button>
        <Button kind="quiet" onPress={onClose}>
          {cancelWords}
        </Button>
      </StickyFoot>
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
          {why === 'day-off' ? ' · no work on this day anyway' : why === 'optional' ? ' · often a working day' : ''}
        </Tick>
      )}
    </li>
  );
}
