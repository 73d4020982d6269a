/* Signing in, links to choose a password, the second factor, and the log of it all. */

/** Why somebody got a link to choose a password. */
export const ACCESS_LINK_KIND = ['invitation', 'password'] as const;
export type AccessLinkKind = (typeof ACCESS_LINK_KIND)[number];

/** Who has to use a second factor: `leads` are owners and leads. */
export const SECOND_FACTOR_FOR = ['nobody', 'leads'] as const;
export type SecondFactorFor = (typeof SECOND_FACTOR_FOR)[number];

/** What the security log holds. */
export const SECURITY_KIND = [
  'signed-in',
  'refused',
  'signed-out',
  'sessions-ended',
  'password-changed',
  'link-asked',
  'invited',
  'link-withdrawn',
  'link-used',
  'second-factor-on',
  'second-factor-off',
  'recovery-code-used',
  'access-changed',
  'deactivated',
  'reactivated',
  'second-factor-required',
] as const;
export type SecurityKind = (typeof SECURITY_KIND)[number];
