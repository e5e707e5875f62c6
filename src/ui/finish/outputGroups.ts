import type { OutputName } from '@/core/delivery/outputs'
import { say } from '@/messages/say'

/** What can be made, as an author looks for it: by what it is for. */
export interface OutputGroup {
  title: string
  detail: string
  button: string
  choices: { name: OutputName; label: string; detail: string }[]
}

export const outputGroups = (): OutputGroup[] => [
  {
    title: say('finish.video'),
    detail: say('finish.withCaptionsToSwitch'),
    button: say('finish.makeTheVideo'),
    choices: [
      { name: 'video', label: say('finish.forACourseSite'), detail: say('finish.mp4AsLoudAs') },
      { name: 'video-site', label: say('finish.forAVideoSite'), detail: say('finish.mp414Lufs') },
      { name: 'phone', label: say('finish.smallForPhones'), detail: say('finish.mp4With540Lines') },
      { name: 'archive', label: say('finish.forAnArchive'), detail: say('finish.mp423Lufs') },
      { name: 'webm', label: say('finish.inAnOpenFormat'), detail: say('finish.webmWithVp9And') },
      {
        name: 'captions-in-picture',
        label: say('finish.captionsInThePicture'),
        detail: say('finish.mp4ForPlacesThat'),
      },
      { name: 'without-music', label: say('finish.withoutMusic'), detail: say('finish.mp4ForThoseWhom') },
    ],
  },
  {
    title: say('finish.packageForACourse'),
    detail: say('finish.theVideoOnA'),
    button: say('finish.makeThePackage'),
    choices: [
      { name: 'package-scorm12', label: say('finish.scorm12'), detail: say('finish.takenInByNearly') },
      { name: 'package-scorm2004', label: say('finish.scorm2004'), detail: say('finish.alsoReportsHowMuch') },
      { name: 'package-cmi5', label: say('finish.cmi5'), detail: say('finish.forSitesWithA') },
      { name: 'package-plain', label: say('finish.aPageByItself'), detail: say('finish.openedFromAFolder') },
    ],
  },
  {
    title: say('finish.soundAlone'),
    detail: say('finish.withTitleAndChapters'),
    button: say('finish.makeTheSoundFile'),
    choices: [
      { name: 'sound', label: say('finish.wav'), detail: say('finish.wavDetail') },
      { name: 'flac', label: say('finish.flac'), detail: say('finish.asGoodAsWav') },
      { name: 'mp3', label: say('finish.mp3'), detail: say('finish.playsEverywhere') },
      { name: 'm4a', label: 'M4A', detail: say('finish.smallForPlayersAnd') },
      { name: 'opus', label: say('finish.opus'), detail: say('finish.smallestOpenFormat') },
    ],
  },
  {
    title: say('finish.toRead'),
    detail: say('finish.whatIsSaidIn'),
    button: say('finish.makeTheText'),
    choices: [
      { name: 'captions-vtt', label: say('finish.captionsWebvtt'), detail: say('finish.forWebPagesAnd') },
      { name: 'captions-srt', label: say('finish.captionsSrt'), detail: say('finish.forPlayersAndVideo') },
      { name: 'captions-ttml', label: say('finish.captionsTtml'), detail: say('finish.forBroadcastersEbuTt') },
      { name: 'transcript-html', label: say('finish.transcriptPage'), detail: say('finish.toReadOrPrint') },
      {
        name: 'transcript-docx',
        label: say('finish.transcriptDocument'),
        detail: say('finish.docxWithTimesAnd'),
      },
      { name: 'transcript-txt', label: say('finish.transcriptText'), detail: say('finish.withoutAnyForm') },
      { name: 'chapters', label: say('finish.chaptersText'), detail: say('finish.toPasteUnderA') },
    ],
  },
  {
    title: say('finish.toMixElsewhere'),
    detail: say('finish.filesThatLieExactly'),
    button: say('finish.makeTheFiles'),
    choices: [
      { name: 'tracks', label: say('finish.allTracks'), detail: say('finish.voiceMusicSoundsRecordings') },
      { name: 'voice-wav', label: say('finish.voiceWav'), detail: say('finish.asItStandsIn') },
      { name: 'voice-flac', label: say('finish.voiceFlac'), detail: say('finish.asItStandsIn') },
    ],
  },
]

/** How something made is called in a list. */
export function titleOf(name: OutputName): string {
  const group = outputGroups().find(({ choices }) => choices.some((choice) => choice.name === name))
  const choice = group?.choices.find((one) => one.name === name)
  return group && choice ? `${group.title}, ${choice.label}` : name
}
