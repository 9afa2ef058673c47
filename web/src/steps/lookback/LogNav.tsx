/** The rooms of the log; what is asked goes along. */
import { NavLink } from 'react-router'

const ROOMS = [
  { to: '/log', text: 'In short' },
  { to: '/log/days', text: 'Days' },
  { to: '/log/rates', text: 'Takes an hour' },
  { to: '/log/advice', text: 'Was it right?' },
  { to: '/log/year', text: 'The year' },
] as const

export function LogNav({ params }: { params: URLSearchParams }) {
  const search = params.size > 0 ? `?${params.toString()}` : ''
  return (
    <nav aria-label="The log" className="screen-only -mx-1 flex flex-wrap gap-x-4">
      {ROOMS.map((room) => (
        <NavLink
          key={room.to}
          to={`${room.to}${search}`}
          end
          className={({ isActive }) =>
            `flex min-h-11 items-center border-b-4 px-1 font-semibold ${isActive ? 'border-hot' : 'border-transparent text-soft'}`
          }
        >
          {room.text}
        </NavLink>
      ))}
    </nav>
  )
}
