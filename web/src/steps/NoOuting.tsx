import { useNavigate } from 'react-router'
import { Button } from '../ui/Button'

/** Nothing was read yet: say where to begin. */
export function NoOuting() {
  const navigate = useNavigate()
  return (
    <section className="mx-auto max-w-xl space-y-4 p-6">
      <h1 className="plate text-3xl font-bold">Read the water first</h1>
      <p>Five things are enough: water, time, surface temperature, wind and sky.</p>
      <Button look="hot" size="large" onClick={() => void navigate('/read')}>
        Read the water
      </Button>
    </section>
  )
}
