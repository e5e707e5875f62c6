'use client'

import { Button, Select } from 'antd'
import { useState } from 'react'
import type { OutputName } from '@/core/delivery/outputs'
import { isUnderWay, type ExportStatus } from '@/core/messages/job'
import type { Seconds } from '@/core/units'
import { say } from '@/messages/say'
import { useDelivery } from '../course/useDelivery'
import { clock, megabytes } from '../format'
import { useDesk, useSaveState, useTimeline } from '../lesson/context'
import { estimateOf } from './estimate'
import { outputGroups, titleOf, type OutputGroup } from './outputGroups'
import styles from './finish.module.css'

/** What to make: by what it is for, each with what it will come to. */
export function Make({ made, onMake }: { made: readonly ExportStatus[]; onMake: (name: OutputName) => void }) {
  const timeline = useTimeline()
  const isReady = useSaveState().state === 'saved' && timeline.steps.length > 0
  return (
    <section className={styles.card} aria-label={say('finish.make')}>
      <h2>{say('finish.whatToMake')}</h2>
      <p className={styles.note}>
        {say('finish.stepsYouCanGo', { count: timeline.steps.length, length: clock(timeline.length, false) })}
      </p>
      <AsTheCourse isReady={isReady} made={made} onMake={onMake} />
      {outputGroups().map((group, i) => (
        <Choice
          key={group.title}
          group={group}
          isFirst={i === 0}
          isReady={isReady}
          length={timeline.length}
          made={made}
          onMake={onMake}
        />
      ))}
    </section>
  )
}

/** What is made of every lesson of the course: all of it in one press, but for what is there already. */
function AsTheCourse({ isReady, made, onMake }: Pick<ChoiceProps, 'isReady' | 'made' | 'onMake'>) {
  const { course } = useDesk()
  const { delivery = [] } = useDelivery(course.id)
  // One file is one of the choices below.
  if (delivery.length < 2) return null
  const newest = (name: OutputName) => made.find(({ input }) => input.file === name)
  const left = delivery.filter((name) => {
    const one = newest(name)
    return !one || (one.state === 'done' ? one.isOutdated : !isUnderWay(one))
  })
  return (
    <div className={styles.choice} role="group" aria-label={say('finish.asForTheWhole')}>
      <p className={styles.detail}>
        <b>{say('finish.asForEveryLesson', { title: course.title })}</b> {delivery.map(titleOf).join('; ')}
      </p>
      <Button className={styles.whole} disabled={!isReady || left.length === 0} onClick={() => left.forEach(onMake)}>
        {left.length === 0
          ? say('finish.allOfItIs')
          : left.length === 1
            ? say('finish.makeTheOneLeft')
            : say('finish.makeAll', { count: left.length })}
      </Button>
    </div>
  )
}

interface ChoiceProps {
  group: OutputGroup
  isFirst: boolean
  isReady: boolean
  length: Seconds
  made: readonly ExportStatus[]
  onMake: (name: OutputName) => void
}

function Choice({ group, isFirst, isReady, length, made, onMake }: ChoiceProps) {
  const [name, setName] = useState(group.choices[0]!.name)
  const chosen = group.choices.find((choice) => choice.name === name)!
  const { bytes, time } = estimateOf(name, length, made)
  return (
    <div className={styles.choice} role="group" aria-label={group.title}>
      <p className={styles.detail}>
        <b>{group.title}</b> {group.detail}
      </p>
      <Select
        value={name}
        onChange={setName}
        aria-label={say('finish.which', { title: group.title })}
        options={group.choices.map((choice) => ({ value: choice.name, label: choice.label }))}
      />
      <Button type={isFirst ? 'primary' : 'default'} disabled={!isReady} onClick={() => onMake(name)}>
        {group.button}
      </Button>
      <span className={styles.detail}>
        {say('finish.about', { detail: chosen.detail, bytes: megabytes(bytes), time: sayTime(time) })}
      </span>
    </div>
  )
}

function sayTime(time: Seconds): string {
  if (time < 10) return say('finish.aFewSeconds')
  if (time < 90) return say('finish.secondsLong', { count: 10 * Math.ceil(time / 10) })
  return say('finish.minutesLong', { count: Math.ceil(time / 60) })
}
