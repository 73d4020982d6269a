/* What open screens are sent. */

/** Sent on the stream of changes: what a change may have touched, as `topicsText` writes it. */
export interface ChangeNotice {
  readonly topics: string;
}
