/** What signing in as some of the demo's people shows, by name; the others are offered below. */
export const DEMO_SHOWS: Readonly<Record<string, string>> = {
  'Odalys Renn': 'A lead’s Monday',
  'Mirela Stoyan': 'A writer’s week',
  'Tavi Lindqvist': 'A designer’s handoffs',
  'Sunniva Ashe': 'The owner’s settings',
  'Rafe Dombrow': 'A freelancer',
  'Freya Kell': 'A client',
};
