/** A label with where it is used. */
export interface LabelLine {
  readonly name: string;
  /** Tasks of running engagements and proposals that are not finished. */
  readonly openTasks: number;
  /** Tasks of all engagements. */
  readonly tasks: number;
  /** Templates with the label on a task. They keep it until they are edited. */
  readonly templates: number;
}
