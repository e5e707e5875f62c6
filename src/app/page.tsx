import { listCourses } from '@/db/courses'
import { Home } from '@/ui/home/Home'

export const dynamic = 'force-dynamic'

export default async function HomePage() {
  return <Home courses={await listCourses()} />
}
