'use client'

import { useState } from 'react'
import { useStore } from 'zustand'
import { createArrivals } from './arrivals'

/** Files on their way that belong to the component, and how far each has come. */
export function useArrivals() {
  const [own] = useState(createArrivals)
  return { arrivals: useStore(own), add: own.add, drop: own.drop }
}
