import { useWho } from '../../session/session.tsx';
import { Muted, Page, PageHead } from '../../ui/layout.tsx';
import { DisplayPanel } from './DisplayPanel.tsx';
import { Columns } from './parts.tsx';
import { PasswordPanel } from './PasswordPanel.tsx';
import { SecondFactorPanel } from './SecondFactorPanel.tsx';
import { SessionsPanel } from './SessionsPanel.tsx';
import { SettingsTabs } from './SettingsTabs.tsx';

/** One's own settings: how things look here, and how one signs in. */
export function OwnSettingsPage() {
  const me = useWho();
  return (
    <Page>
      <PageHead>
        <h1>Settings</h1>
        <SettingsTabs shown="/settings" />
        <Muted>{me.name}</Muted>
      </PageHead>
      <Columns>
        <div>
          <DisplayPanel />
          <PasswordPanel />
        </div>
        <div>
          <SecondFactorPanel />
          <SessionsPanel />
        </div>
      </Columns>
    </Page>
  );
}
