import { MOST_LOGO_BYTES, type AgencySettings } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { backBy, perform } from '../../session/perform.ts';
import { Button } from '../../ui/Button.tsx';
import { ChooseFile } from '../../ui/ChooseFile.tsx';
import { Note, Trouble } from '../../ui/text.tsx';

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  margin-bottom: 8px;
`;

const Shown = styled.div`
  display: grid;
  place-items: center;
  width: 132px;
  height: 56px;
  padding: 6px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: #fff;
  color: #5b6866;
  font-size: 12px;
  img {
    max-width: 100%;
    max-height: 42px;
  }
`;

const set = (image: string | null): Promise<AgencySettings> => call('PUT', '/settings/logo', { image });

/** The agency's logo: shown as it is on white, replaced by a picture from one's disk, removed. */
export function LogoField({ logo }: { readonly logo: string | null }) {
  const [trouble, setTrouble] = useState<string>();
  const change = async (image: string | null, said: string): Promise<void> => {
    let before: string | null = null;
    const send = async (): Promise<AgencySettings> => {
      // What is there now is fetched first: undoing sends it again.
      if (logo !== null) before = await fetch(logo).then((answer) => answer.blob().then(inBase64));
      return set(image);
    };
    await perform({ send, said, undo: () => backBy(() => set(before)), onTrouble: setTrouble });
  };
  const choose = async (file: File | undefined): Promise<void> => {
    setTrouble(undefined);
    if (file === undefined) return;
    if (file.size > MOST_LOGO_BYTES)
      return setTrouble(`“${file.name}” is larger than 256 KB. Save it smaller, 400 pixels wide are enough.`);
    await inBase64(file).then(
      (image) => change(image, 'Logo replaced.'),
      (error: Error) => setTrouble(error.message),
    );
  };
  return (
    <div role="group" aria-label="Logo">
      <Row>
        <Shown>{logo === null ? 'No logo yet' : <img src={logo} alt="Logo of the agency" />}</Shown>
        <ChooseFile types={['image/png', 'image/jpeg', 'image/webp']} onChoose={([file]) => void choose(file)}>
          <Button>{logo === null ? 'Import logo…' : 'Replace logo…'}</Button>
        </ChooseFile>
        {logo === null ? null : (
          <Button kind="quiet" onPress={() => void change(null, 'Logo removed.')}>
            Remove logo
          </Button>
        )}
      </Row>
      <Note $isSmall>A PNG, JPEG or WebP picture of up to 256 KB. Clients see it, and whoever signs in.</Note>
      <Trouble words={trouble} />
    </div>
  );
}

/** The content of a picture as the API takes it: a data address without its head. */
function inBase64(content: Blob): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).replace(/^[^,]*,/, ''));
    reader.onerror = () => reject(new Error('The picture could not be read. Choose it again.'));
    reader.readAsDataURL(content);
  });
}
