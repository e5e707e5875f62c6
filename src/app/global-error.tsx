'use client'

const ENGLISH = {
  title: 'Yarn Step could not be shown',
  what: 'What you did is safe: it is saved, or kept in this browser and saved when the lesson is opened again.',
  again: 'Load the page again',
  home: 'Go to your courses',
}
const GERMAN: typeof ENGLISH = {
  title: 'Yarn Step konnte nicht gezeigt werden',
  what: 'Was Sie getan haben, ist sicher: es ist gesichert, oder in diesem Browser behalten und wird gesichert, wenn die Lektion wieder geöffnet wird.',
  again: 'Die Seite neu laden',
  home: 'Zu Ihren Kursen',
}

/** Where not even the frame of a page could be shown: nothing of ours can be relied on here, the page's words neither. */
export default function FrameError() {
  const isGerman = typeof navigator !== 'undefined' && /^de\b/.test(document.documentElement.lang || navigator.language)
  const words = isGerman ? GERMAN : ENGLISH
  return (
    <html lang={isGerman ? 'de' : 'en'}>
      <body style={{ font: '16px sans-serif', padding: 40 }}>
        <h1 style={{ fontSize: 22 }}>{words.title}</h1>
        <p>{words.what}</p>
        <p>
          <button onClick={loadAgain}>{words.again}</button> <button onClick={loadHome}>{words.home}</button>
        </p>
      </body>
    </html>
  )
}

const loadAgain = () => location.reload()

// The page is loaded anew: what broke must not go along.
// eslint-disable-next-line @next/next/no-location-assign-relative-destination
const loadHome = () => location.assign('/')
