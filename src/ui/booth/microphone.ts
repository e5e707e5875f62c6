import { say } from '@/messages/say'
import { openTrackSound, type TrackSound } from './trackSound'

/** What a browser may do to a microphone's sound on its own. All off unless asked for: it costs the voice's tone. */
export interface InputChoice {
  device: string | null
  echoCancellation: boolean
  noiseSuppression: boolean
  autoGainControl: boolean
}

export const PLAIN_INPUT: InputChoice = {
  device: null,
  echoCancellation: false,
  noiseSuppression: false,
  autoGainControl: false,
}

/** An open microphone. */
export interface Microphone extends TrackSound {
  label: string
}

/** Throws an Error with a sentence where there is no microphone, or it may not be used. */
export async function openMicrophone({ device, ...processing }: InputChoice): Promise<Microphone> {
  const stream = await navigator.mediaDevices
    .getUserMedia({ audio: { ...processing, ...(device && { deviceId: { exact: device } }) } })
    .catch((error: DOMException) => {
      throw new Error(sentenceFor(error))
    })
  const [track] = stream.getAudioTracks() as [MediaStreamTrack]
  const sound = await openTrackSound(track)
  return {
    ...sound,
    label: track.label,
    close() {
      sound.close()
      track.stop()
    },
  }
}

export async function listMicrophones(): Promise<{ id: string; label: string }[]> {
  const devices = await navigator.mediaDevices.enumerateDevices()
  return devices
    .filter(({ kind, deviceId }) => kind === 'audioinput' && deviceId !== '')
    .map(({ deviceId, label }, i) => ({
      id: deviceId,
      label: label || say('booth.microphoneNumber', { number: i + 1 }),
    }))
}

function sentenceFor({ name }: DOMException): string {
  if (name === 'NotAllowedError') return say('booth.theBrowserDoesNot')
  if (name === 'NotFoundError' || name === 'OverconstrainedError') return say('booth.thereIsNoMicrophone')
  return say('booth.theMicrophoneCouldNot')
}
