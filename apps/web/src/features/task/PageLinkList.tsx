import { PageLinkInput } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
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

interface PageLinkListProps {
  readonly pageLinks: readonly PageLink[];
  /** Left out where links are only read. */
  readonly onChange?: (pageLinks: readonly PageLink[]) => void;
}

/** Web links, such as how-tos: opened, removed, added by title and address. Nothing is shown where there is nothing to do. */
export function PageLinkList({ pageLinks, onChange }: PageLinkListProps) {
  if (pageLinks.length === 0 && onChange === undefined) return null;
  return (
    <SheetPart>
      <h3>Links, such as how-tos</h3>
      <ul>
        {pageLinks.map((link) => (
          <Row key={`${link.title} ${link.url}`}>
            <a href={link.url} target="_blank" rel="noreferrer">
              {link.title}
            </a>
            {onChange === undefined ? null : (
              <Button
                kind="quiet"
                aria-label={`Remove ${link.title}`}
                onPress={() => onChange(pageLinks.filter((other) => other !== link))}
              >
                ✕
              </Button>
            )}
          </Row>
        ))}
      </ul>
      {onChange === undefined ? null : <NewLink onAdd={(link) => onChange([...pageLinks, link])} />}
    </SheetPart>
  );
}

function NewLink({ onAdd }: { readonly onAdd: (link: PageLink) => void }) {
  const [isOpen, setOpen] = useState(false);
  const form = useInputForm({
    rules: PageLinkInput,
    typed: { title: '', url: '' },
    input: ({ title, url }) => ({ title: title.trim(), url: url.trim() }),
    send: (link) => {
      onAdd(link);
      form.reset();
      setOpen(false);
      return Promise.resolve();
    },
  });
  if (!isOpen) return <Button onPress={() => setOpen(true)}>Add link…</Button>;
  return (
    <SmallForm form={form} action="Add" onCancel={() => setOpen(false)} label="New link">
      <Field {...form.bind('title')} label="Title" autoFocus />
      <Field {...form.bind('url')} label="Web address" placeholder="https://…" />
    </SmallForm>
  );
}
