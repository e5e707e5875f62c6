import Link from 'next/link'
import { say } from '@/messages/say'
import styles from './brand.module.css'

export function Brand() {
  return (
    <Link href="/" className={styles.brand} aria-label={say('parts.yarnStepHome')}>
      <svg viewBox="0 0 32 28" width="26" height="23" aria-hidden="true">
        <path d="M1 21h7v-6h7V9h7V3h8" fill="none" stroke="var(--ink)" strokeWidth="3" strokeLinejoin="round" />
        <path d="M1 26h10v-6h7v-6h7V8h6" fill="none" stroke="var(--voice)" strokeWidth="2.2" strokeLinejoin="round" />
      </svg>
      <span>Yarn Step</span>
    </Link>
  )
}
