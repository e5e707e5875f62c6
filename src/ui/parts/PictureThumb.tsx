import type { Picture } from '@/core/lesson/document'
import { cardUrl, thumbnailUrl } from '../api'

export function pictureThumbUrl(picture: Picture): string {
  if (picture.kind === 'card') return cardUrl(picture.lines)
  return thumbnailUrl(picture.media, picture.kind === 'still' ? picture.page : 1)
}

export function PictureThumb({ picture, className }: { picture: Picture; className?: string }) {
  return <img src={pictureThumbUrl(picture)} alt="" className={className} draggable={false} />
}
