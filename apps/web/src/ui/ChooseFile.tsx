import { useRef, type ReactNode } from 'react';
import { FileTrigger } from 'react-aria-components';

interface ChooseFileProps {
  readonly onChoose: (files: readonly File[]) => void;
  /** Types or endings that are offered, as `image/png` or `.ics`. */
  readonly types?: readonly string[];
  readonly isMany?: boolean;
  /** The button that opens the choice. */
  readonly children: ReactNode;
}

/** Files from one's disk, the same one again too. */
export function ChooseFile({ onChoose, types, isMany = false, children }: ChooseFileProps) {
  const field = useRef<HTMLInputElement>(null);
  const choose = (files: FileList | null): void => {
    const chosen = [...(files ?? [])];
    // A field that still holds a file says nothing when that file is chosen again, as after it was corrected or removed.
    if (field.current !== null) field.current.value = '';
    onChoose(chosen);
  };
  return (
    <FileTrigger ref={field} allowsMultiple={isMany} {...(types === undefined ? {} : { acceptedFileTypes: types })} onSelect={choose}>
      {children}
    </FileTrigger>
  );
}
