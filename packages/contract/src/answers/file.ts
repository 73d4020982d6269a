/** A file of the agency; its content is at `/files/{id}`. */
export interface KeptFile {
  readonly id: string;
  readonly name: string;
  /** Its media type, as image/png. */
  readonly type: string;
  readonly bytes: number;
  readonly addedAt: string;
  readonly addedBy: string | null;
}
