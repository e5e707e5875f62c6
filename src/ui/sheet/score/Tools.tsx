'use client'

import {
  MinusOutlined,
  PlusOutlined,
  QuestionCircleOutlined,
  SearchOutlined,
  UnorderedListOutlined,
} from '@/ui/parts/icons'
import { Button, Segmented, Tooltip } from 'antd'
import { say } from '@/messages/say'
import { shownKeys } from '../../keys'
import { useLessonState } from '../../lesson/context'
import { isApple } from '../../system'
import { BringIn } from '../../uploads/BringIn'
import type { SheetActions } from '../actions/actions'
import { useSheetView, WAVE_HEIGHTS } from './view'
import styles from '../sheet.module.css'

const WAVE_HEIGHT_NAMES = ['score.low', 'score.usual', 'score.tall', 'score.tallest'] as const

/** What one reaches for below the rows. */
export function Tools({ actions }: { actions: SheetActions }) {
  const aligning = useLessonState((state) => state.aligning)
  const { pixelsPerSecond, waveHeight, setScale, setWaveHeight } = useSheetView()
  return (
    <div className={styles.tools}>
      <BringIn />
      <Button size="small" icon={<SearchOutlined />} onClick={actions.find}>
        {say('score.find')}
      </Button>
      <Tooltip title={say('score.everything', { keys: shownKeys('mod+k', isApple()) })}>
        <Button size="small" icon={<UnorderedListOutlined />} onClick={actions.commands}>
          {say('score.whatToDo')}
        </Button>
      </Tooltip>
      {aligning > 0 && <span role="status">{say('score.findingWords', { count: aligning })}</span>}
      <span className={styles.gap} />
      <span className={styles.scales}>
        {say('score.scale')}
        <Button
          size="small"
          icon={<MinusOutlined />}
          aria-label={say('score.smallerScale')}
          onClick={() => setScale(pixelsPerSecond / 1.25)}
        />
        <Button
          size="small"
          icon={<PlusOutlined />}
          aria-label={say('score.largerScale')}
          onClick={() => setScale(pixelsPerSecond * 1.25)}
        />
        <span style={{ marginLeft: 10 }}>{say('score.wave')}</span>
        <Segmented
          size="small"
          aria-label={say('score.heightOfTheWave')}
          value={waveHeight}
          options={WAVE_HEIGHTS.map((value, i) => ({ value, label: say(WAVE_HEIGHT_NAMES[i]!) }))}
          onChange={setWaveHeight}
        />
      </span>
      <Tooltip title={say('score.keys')}>
        <Button
          size="small"
          type="text"
          icon={<QuestionCircleOutlined />}
          aria-label={say('score.listOfKeys')}
          onClick={actions.help}
        />
      </Tooltip>
    </div>
  )
}
