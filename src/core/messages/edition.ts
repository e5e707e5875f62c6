/** Of every answer: by which build of this program it was made. A page of another one is out of date. */
export const EDITION_HEADER = 'x-yarn-step-edition'
