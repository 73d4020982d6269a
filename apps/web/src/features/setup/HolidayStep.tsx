import { useCalendar } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { ErrorNote, Loading } from '../../ui/layout.tsx';
import { HolidayPicker } from '../calendar/HolidayPicker.tsx';

/** On which public holidays nobody works. */
export function HolidayStep({ onNext }: { readonly onNext: () => void }) {
  const { today } = useWho();
  const { data: calendar, error } = useCalendar();
  return (
    <>
      <h2>Which public holidays do you keep?</h2>
      <p>No work is planned on closed days. The ones offices usually keep are ticked; untick those you work on.</p>
      {error ? (
        <ErrorNote error={error} />
      ) : calendar === undefined ? (
        <Loading rows={8} />
      ) : (
        <HolidayPicker calendar={calendar} today={today} cancelWords="Skip" onClose={onNext} />
      )}
    </>
  );
}
