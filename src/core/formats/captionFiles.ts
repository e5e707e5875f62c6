import type { Caption } from '@/core/captions/captions'
import type { Seconds } from '@/core/units'
import { asXml } from './xmlText'

/** Captions as files of open standards. */

type Shown = Pick<Caption, 'start' | 'end' | 'lines'>

/** In whole seconds when something begins, as one types it to get there: a second earlier is still what comes before. */
export const secondOf = (start: Seconds): Seconds => Math.ceil(start - 1e-6)

/** The text of a WebVTT cue, in which `<` and `&` begin something else. */
export const cueText = (lines: readonly string[]): string => lines.map(withoutOrders).map(asText).join('\n')

/** WebVTT (W3C). */
export const writeVtt = (captions: readonly Shown[]): string =>
  `WEBVTT\n\n${captions.map((one) => `${clock(one.start, '.')} --> ${clock(one.end, '.')}\n${cueText(one.lines)}\n`).join('\n')}`

/** SubRip, as players agree on it: numbered, with a comma before the milliseconds. It has no way to write a `<` that begins nothing. */
export const writeSrt = (captions: readonly Shown[]): string =>
  captions
    .map(
      (one, i) =>
        `${i + 1}\n${clock(one.start, ',')} --> ${clock(one.end, ',')}\n${one.lines.map(withoutTags).join('\n')}\n`,
    )
    .join('\n')

/** TTML as EBU-TT-D has it (EBU Tech 3380): times of media, a region at the lower edge, lines in the middle. */
export function writeTtml(captions: readonly Shown[], language: string): string {
  const paragraphs = captions.map(
    ({ start, end, lines }, i) =>
      `      <p xml:id="c${i + 1}" region="lower" style="line" begin="${clock(start, '.')}" end="${clock(end, '.')}"><span style="words">${lines.map(asText).join('<br/>')}</span></p>`,
  )
  return `<?xml version="1.0" encoding="UTF-8"?>
<tt xmlns="http://www.w3.org/ns/ttml" xmlns:ttp="http://www.w3.org/ns/ttml#parameter" xmlns:tts="http://www.w3.org/ns/ttml#styling" xmlns:ebuttm="urn:ebu:tt:metadata" ttp:timeBase="media" ttp:cellResolution="32 15" xml:lang="${asXml(language)}">
  <head>
    <metadata>
      <ebuttm:documentMetadata>
        <ebuttm:conformsToStandard>urn:ebu:tt:distribution:2018-04</ebuttm:conformsToStandard>
      </ebuttm:documentMetadata>
    </metadata>
    <styling>
      <style xml:id="line" tts:fontFamily="proportionalSansSerif" tts:fontSize="100%" tts:lineHeight="125%" tts:textAlign="center"/>
      <style xml:id="words" tts:color="#ffffff" tts:backgroundColor="#000000c0"/>
    </styling>
    <layout>
      <region xml:id="lower" tts:origin="10% 80%" tts:extent="80% 15%" tts:displayAlign="after"/>
    </layout>
  </head>
  <body>
    <div>
${paragraphs.join('\n')}
    </div>
  </body>
</tt>
`
}

/** What players take for an order to them, and for a tag, is parted by a word joiner, which nobody sees. */
const withoutOrders = (line: string): string => line.replace(/\{(?=\\)/g, '$&\u2060')
const withoutTags = (line: string): string => withoutOrders(line).replace(/<(?=[/a-z])/gi, '$&\u2060')

const asText = (text: string): string => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')

/** `01:02:03.456`. */
export function clock(time: Seconds, point: '.' | ','): string {
  const whole = Math.round(time * 1000)
  const two = (value: number) => String(value).padStart(2, '0')
  const seconds = Math.floor(whole / 1000)
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${point}${String(whole % 1000).padStart(3, '0')}`
}
