/* What open screens are told. Days are ISO days, effort is minutes, times are ISO instants. */

/** Said on the stream of changes; null when which engagement is not told. */
export interface ChangeNotice {
  readonly engagementId: string | null;
}
