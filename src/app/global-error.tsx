'use client'

/** Where not even the frame of a page could be shown: nothing of ours can be relied on here. */
export default function FrameError({ reset }: { reset: () => void }) {
  return (
    <html lang="en">
      <body style={{ font: '16px sans-serif', padding: 40 }}>
        <h1 style={{ fontSize: 22 }}>Yarn Step could not be shown</h1>
        <p>What you did is safe: it is saved, or kept in this browser and saved when the lesson is opened again.</p>
        <p>
          <button onClick={reset}>Try again</button> <button onClick={loadHome}>Go to your courses</button>
        </p>
      </body>
    </html>
  )
}

// The page is loaded anew: what broke must not go along.
// eslint-disable-next-line @next/next/no-location-assign-relative-destination
const loadHome = () => location.assign('/')
