'use client'

import { PlusOutlined } from '@/ui/parts/icons'
import { Button } from 'antd'
import { useRef } from 'react'
import { say } from '@/messages/say'
import { useBringIn } from './useBringIn'

const ACCEPTED = [
  '.png,.jpg,.jpeg,.webp,.avif,.gif,.tif,.tiff,.bmp,.svg,.heic,.heif',
  '.pdf,.pptx,.odp',
  '.wav,.mp3,.m4a,.aac,.ogg,.opus,.flac,.aif,.aiff,.caf,.wma',
  '.mp4,.mov,.m4v,.webm,.mkv,.avi,.mts,.m2ts,.3gp,.wmv',
  '.srt,.vtt',
].join(',')

/** The button way of bringing in files; dropping them does the same. */
export function BringIn({ type = 'default' }: { type?: 'default' | 'primary' }) {
  const input = useRef<HTMLInputElement>(null)
  const bringIn = useBringIn()
  return (
    <>
      <Button
        size={type === 'primary' ? 'middle' : 'small'}
        type={type}
        icon={<PlusOutlined />}
        onClick={() => input.current?.click()}
      >
        {say('uploads.bringInFiles')}
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        accept={ACCEPTED}
        data-testid="bring-in"
        onChange={(event) => {
          bringIn([...(event.target.files ?? [])])
          event.target.value = ''
        }}
      />
    </>
  )
}
