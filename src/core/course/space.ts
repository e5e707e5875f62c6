/** How much room a course takes, in bytes. */
export interface CourseSpace {
  /** The files of its lessons, with what import made of them. */
  files: number
  /** What is only kept to be quicker, and made anew when it is asked for. */
  kept: number
  /** Finished files. */
  made: number
}
