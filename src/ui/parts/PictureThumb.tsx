import type { Picture } from '@/core/lesson/document'
import { USUAL_FRAME, type FrameShape } from '@/core/lesson/framing'
import { cardUrl, thumbnailUrl } from '../api'

export function pictureThumbUrl(picture: Picture, shape: FrameShape): string {
  if (picture.kind === 'card') return cardUrl(picture.lines, shape)
  return thumbnailUrl(picture.media, picture.kind === 'still' ? picture.page : 1)
}

interface PictureThumbProps {
  picture: Picture
  /** Of the lesson's video. */
  shape?: FrameShape
  className?: string
}

export function PictureThumb({ picture, shape = USUAL_FRAME.shape, className }: PictureThumbProps) {
  return <img src={pictureThumbUrl(picture, shape)} alt="" className={className} draggable={false} />
}
