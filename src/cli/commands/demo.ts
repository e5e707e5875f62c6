import { makeDemo } from '@/demo/make'

export const demo = ({ out }: { out: string }) => makeDemo(out)
