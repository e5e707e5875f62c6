/**
 * The one set of colours, for style sheets, components and canvas alike: what each is for, on a day's ground and on a dark
 * one. Text has a contrast of at least 4.5 to what it stands on, parts that mean something 3 (WCAG 2.2; palette.test.ts).
 * Voice and music differ in lightness, too, and music is hatched.
 */

export type Ground = 'day' | 'dark'

const day = {
  ink: '#161d29',
  softInk: '#46535f',
  /** Writing where nothing has been typed yet. */
  paleInk: '#65727c',
  onInk: '#ffffff',
  ground: '#e8eef0',
  paper: '#ffffff',
  /** Of rulers and tool bars. */
  tint: '#f4f8f9',
  graph: '#e1e9ec',
  line: '#c6d2d7',
  /** Of what is taken hold of or typed into. */
  edge: '#7b8b94',
  voice: '#a31b47',
  quietVoice: '#d996ad',
  bed: '#3b8da3',
  /** The hatch on the music. */
  bedHatch: '#7dbccd',
  bedInk: '#12647a',
  bedPaper: '#d8e9ee',
  sounds: '#93610a',
  soundsInk: '#6b4600',
  soundsPaper: '#fff0cf',
  picture: '#51626f',
  fault: '#b83a12',
  faultPaper: '#fbe3d9',
  held: '#256b3a',
  heldPaper: '#e6f2ea',
  notice: '#fff6e0',
  chosen: '#eaf1fd',
  word: '#dcebf8',
  wordChosen: '#a9cdf0',
  focus: '#1a56c4',
}

export type Palette = Record<keyof typeof day, string>

const dark: Palette = {
  ink: '#e9eff2',
  softInk: '#b2c0c9',
  paleInk: '#93a2ac',
  onInk: '#10171d',
  ground: '#0f161b',
  paper: '#182129',
  tint: '#141c23',
  graph: '#25303a',
  line: '#3b4a55',
  edge: '#758894',
  voice: '#f591ae',
  quietVoice: '#8a5468',
  bed: '#2f8ba3',
  bedHatch: '#1d5566',
  bedInk: '#6cc4da',
  bedPaper: '#173741',
  sounds: '#d9a441',
  soundsInk: '#f3cd85',
  soundsPaper: '#3c2f12',
  picture: '#9db0bc',
  fault: '#ff9466',
  faultPaper: '#43221a',
  held: '#7ccf92',
  heldPaper: '#1a3324',
  notice: '#38301b',
  chosen: '#1d2c40',
  word: '#263a50',
  wordChosen: '#2f5680',
  focus: '#86b4ff',
}

export const PALETTES: Record<Ground, Palette> = { day, dark }

const propertyOf = (name: string): string => `--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`

const declarations = (palette: Palette): string =>
  Object.entries(palette)
    .map(([name, colour]) => `${propertyOf(name)}:${colour}`)
    .join(';')

/** Custom properties of the ground that was chosen on the page's root, or that the system asks for. */
export const paletteCss = (): string =>
  `:root{color-scheme:light;${declarations(day)}}` +
  `:root[data-ground=dark]{color-scheme:dark;${declarations(dark)}}` +
  `@media (prefers-color-scheme:dark){:root:not([data-ground=day]){color-scheme:dark;${declarations(dark)}}}`
