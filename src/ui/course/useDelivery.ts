'use client'

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { App } from 'antd'
import { changedDelivery, deliveryChange, type Delivery, type DeliveryChange } from '@/core/course/delivery'
import { call } from '../api'

/** What is made of each lesson of a course, as somebody has said it; `undefined` until it is known. */
export function useDelivery(course: string) {
  const { message } = App.useApp()
  const client = useQueryClient()
  const path = `/api/courses/${course}/delivery`
  const queryKey = [path]
  const { data: delivery } = useQuery({ queryKey, queryFn: () => call<Delivery>(path) })
  const { mutate } = useMutation({
    mutationFn: (change: DeliveryChange) => call<Delivery>(path, { method: 'PATCH', body: change }),
    // Seen at once; what the server does not take is as it was.
    onMutate: (change) => client.setQueryData<Delivery>(queryKey, (now = []) => changedDelivery(now, change)),
    onError: (error) => {
      void message.error(error.message)
      void client.invalidateQueries({ queryKey })
    },
  })
  const setDelivery = (chosen: Delivery) => mutate(deliveryChange(delivery ?? [], chosen))
  return { delivery, setDelivery }
}
