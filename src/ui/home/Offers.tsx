'use client'

import { Checkbox, Select } from 'antd'
import { PIECE_KINDS, type PieceKind } from '@/core/compose/wish'
import { say } from '@/messages/say'
import { kindNames } from '../parts/pieceNames'
import styles from './home.module.css'

/** What can be made for a first lesson where something is missing. */
export interface Offered {
  hasStandIns: boolean
  piece: PieceKind | null
  withHidden: boolean
}

interface OffersProps {
  offered: Offered
  onChange: (part: Partial<Offered>) => void
  /** Steps that have words and nobody who says them. */
  silent: number
  hasMusic: boolean
  /** Pages that a deck leaves out. */
  hidden: number
}

export function Offers({ offered, onChange, silent, hasMusic, hidden }: OffersProps) {
  if (silent === 0 && hasMusic && hidden === 0) return null
  return (
    <div className={styles.offers}>
      {silent > 0 && (
        <Checkbox checked={offered.hasStandIns} onChange={({ target }) => onChange({ hasStandIns: target.checked })}>
          {say('home.readByAVoice', { count: silent })}
        </Checkbox>
      )}
      {!hasMusic && (
        <label>
          {say('home.offerMusic')}{' '}
          <Select
            aria-label={say('home.offerMusic')}
            value={offered.piece ?? 'none'}
            options={[
              { value: 'none', label: say('home.noMusic') },
              ...PIECE_KINDS.map((kind) => ({
                value: kind,
                label: say('home.madeForThisLesson', { kind: kindNames()[kind] }),
              })),
            ]}
            onChange={(kind) => onChange({ piece: kind === 'none' ? null : (kind as PieceKind) })}
            style={{ width: 280 }}
          />
        </label>
      )}
      {hidden > 0 && (
        <Checkbox checked={offered.withHidden} onChange={({ target }) => onChange({ withHidden: target.checked })}>
          {say('home.alsoShowHidden', { count: hidden })}
        </Checkbox>
      )}
    </div>
  )
}
