import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';

/** A page worth having at hand. */
export interface PageLink {
  readonly title: string;
  readonly url: string;
}

const Row = styled.li`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 6px;
  min-height: 28px;
  a {
    min-width: 0;
    overflow-wrap: anywhere;
    color: var(--petrol);
    font-weight: 600;
  }
`;

interface LinkListProps {
  readonly links: readonly PageLink[];
  /** Left out where links are only read. */
  readonly onChange?: (links: readonly PageLink[]) => void;
}

const isAddress = (text: string): boolean => /^https?:\/\/\S+$/.test(text.trim());

/** Links, such as how-tos: followed, taken away, added by title and address. Nothing is shown where there is nothing to do. */
export function LinkList({ links, onChange }: LinkListProps) {
  if (links.length === 0 && onChange === undefined) return null;
  return (
    <SheetPart>
      <h3>Links, such as how-tos</h3>
      <ul>
        {links.map((link) => (
          <Row key={`${link.title} ${link.url}`}>
            <a href={link.url} target="_blank" rel="noreferrer">
              {link.title}
            </a>
            {onChange === undefined ? null : (
              <Button kind="quiet" aria-label={`Take ${link.title} away`} onPress={() => onChange(links.filter((other) => other !== link))}>
                ✕
              </Button>
            )}
          </Row>
        ))}
      </ul>
      {onChange === undefined ? null : <NewLink onAdd={(link) => onChange([...links, link])} />}
    </SheetPart>
  );
}

function NewLink({ onAdd }: { readonly onAdd: (link: PageLink) => void }) {
  const [title, setTitle] = useState('');
  const [url, setUrl] = useState('');
  const [isOpen, setOpen] = useState(false);
  const isReady = title.trim() !== '' && isAddress(url);
  if (!isOpen) return <Button onPress={() => setOpen(true)}>Add a link…</Button>;
  return (
    <form
      style={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 6, alignItems: 'start' }}
      onSubmit={(event) => {
        event.preventDefault();
        if (!isReady) return;
        onAdd({ title: title.trim(), url: url.trim() });
        setTitle('');
        setUrl('');
        setOpen(false);
      }}
    >
      <Field label="" aria-label="Title of the link" placeholder="Title" isTight value={title} onChange={setTitle} autoFocus />
      <Field
        label=""
        aria-label="Address of the link"
        placeholder="https://…"
        isTight
        value={url}
        onChange={setUrl}
        error={url.trim() !== '' && !isAddress(url) ? 'An address begins with https://.' : undefined}
      />
      <Button type="submit" isDisabled={!isReady} style={{ minHeight: 32 }}>
        Add
      </Button>
    </form>
  );
}
