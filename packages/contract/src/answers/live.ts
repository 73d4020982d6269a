/* What open screens are told. */

/** Said on the stream of changes: what a change may have touched, as `topicsText` writes it. */
export interface ChangeNotice {
  readonly topics: string;
}
