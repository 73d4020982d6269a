import type { SecurityLine } from '@crew/contract';
import { count } from '../../words/format.ts';

/** A line of the security log as a sentence. */
export function securityWords({ kind, whom, by, note }: Pick<SecurityLine, 'kind' | 'whom' | 'by' | 'note'>): string {
  const someone = by === null ? '' : ` by ${by}`;
  switch (kind) {
    case 'signed-in':
      return note === 'demo' ? `${whom} signed in by the demo’s list` : `${whom} signed in`;
    case 'refused':
      return `${whom} was refused: ${note}`;
    case 'signed-out':
      return `${whom} signed out`;
    case 'sessions-ended':
      return `${whom} signed out ${count(Number(note), 'other device')}`;
    case 'password-changed':
      return `${whom} changed the password`;
    case 'invited':
      return `${whom} was invited${someone}`;
    case 'link-asked':
      return by === null ? `${whom} asked for a link for a new password` : `${whom} was given a link for a new password${someone}`;
    case 'link-withdrawn':
      return `The link of ${whom} was withdrawn${someone}`;
    case 'link-used':
      return `${whom} chose a password by a link`;
    case 'second-factor-on':
      return note === '' ? `${whom} turned on the second factor` : `${whom} got ${note}`;
    case 'second-factor-off':
      return `${whom} turned off the second factor`;
    case 'recovery-code-used':
      return `${whom} used a recovery code`;
    case 'access-changed':
      return `Access of ${whom} was changed${someone}: ${note}`;
    case 'deactivated':
      return `${whom} was deactivated${someone}`;
    case 'reactivated':
      return `${whom} was reactivated${someone}`;
    case 'second-factor-required':
      return note === 'nobody' ? `${whom} stopped asking for a second factor` : `${whom} asked owners and leads for a second factor`;
  }
}
