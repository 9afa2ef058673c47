/** The shell: who is here, which step, and what still waits to be sent. */
import { lazy, Suspense, useEffect } from 'react'
import { BrowserRouter, Navigate, NavLink, Route, Routes, useLocation, useNavigate } from 'react-router'
import { AccountMenu } from './account/AccountMenu'
import { ConnectionBar } from './ui/ConnectionBar'
import { hearWho } from './offline/kept'
import { flush } from './offline/outbox'
import { OutingProvider, useOuting } from './state/outing'
import { PersonProvider, usePerson, useSession, useUnits } from './state/person'
import { FishPage } from './steps/fish/FishPage'
import { ReadPage } from './steps/read/ReadPage'
import { RigPage } from './steps/rig/RigPage'
import { Screen } from './ui/Failed'
import { Trouble, Waiting } from './ui/Notice'
import { isTyping, ShortcutSheet } from './ui/ShortcutSheet'
import { WelcomePage } from './welcome/WelcomePage'

const LookBackPage = lazy(() =>
  import('./steps/lookback/LookBackPage').then((m) => ({ default: m.LookBackPage })),
)
const DayPage = lazy(() => import('./steps/lookback/DayPage').then((m) => ({ default: m.DayPage })))
const WatersPage = lazy(() => import('./waters/WatersPage').then((m) => ({ default: m.WatersPage })))
const ChartPage = lazy(() => import('./chart/ChartPage').then((m) => ({ default: m.ChartPage })))
const InstrumentsPage = lazy(() =>
  import('./instruments/InstrumentsPage').then((m) => ({ default: m.InstrumentsPage })),
)
const CardPage = lazy(() => import('./steps/rig/CardPage').then((m) => ({ default: m.CardPage })))
const TankPage = lazy(() => import('./tank/TankPage').then((m) => ({ default: m.TankPage })))
const BoxPage = lazy(() => import('./box/BoxPage').then((m) => ({ default: m.BoxPage })))

const STEPS = [
  { to: '/read', text: 'Read', key: '1' },
  { to: '/rig', text: 'Rig', key: '2' },
  { to: '/fish', text: 'Fish', key: '3' },
  { to: '/log', text: 'Look back', key: '4' },
] as const
const PLACES = [
  { to: '/waters', text: 'Waters', key: '5' },
  { to: '/box', text: 'Box', key: '6' },
  { to: '/tank', text: 'Tank', key: '7' },
  { to: '/instruments', text: 'Instruments', key: '8' },
] as const
const ROOMY: readonly string[] = ['/tank', '/instruments']
const RESEND_MS = 20_000

export function App() {
  const session = useSession()
  const name = session.data?.username
  // Another tab that signed in or out speaks for the whole device.
  useEffect(() => {
    if (name === undefined) return
    return hearWho((username) => {
      if (username !== name) window.location.reload()
    })
  }, [name])
  if (session.isError) return <Trouble error={session.error} />
  if (!session.data) return <Waiting what="Opening…" />
  if (!session.data.username) return <WelcomePage session={session.data} />
  return (
    <PersonProvider session={session.data}>
      <OutingProvider key={session.data.username} username={session.data.username}>
        <BrowserRouter>
          <Shell />
        </BrowserRouter>
      </OutingProvider>
    </PersonProvider>
  )
}

function Shell() {
  const { username } = usePerson()
  const { theme } = useUnits()
  const { forget } = useOuting()
  const { pathname } = useLocation()
  useEffect(() => {
    document.documentElement.dataset.theme = theme
  }, [theme])
  useEffect(() => {
    const send = () => void flush(username)
    send()
    const timer = setInterval(send, RESEND_MS)
    window.addEventListener('online', send)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', send)
    }
  }, [username])
  return (
    <div className="flex min-h-full flex-col">
      <Header />
      <ConnectionBar />
      <main id="step" tabIndex={-1} className="grow">
        <Screen of={pathname} onForget={forget}>
          <Suspense fallback={<Waiting what="Opening…" />}>
            <Routes>
              <Route path="/" element={<Navigate to="/read" replace />} />
              <Route path="/read" element={<ReadPage />} />
              <Route path="/rig" element={<RigPage />} />
              <Route path="/card/:methodKey" element={<CardPage />} />
              <Route path="/fish" element={<FishPage />} />
              <Route path="/log" element={<LookBackPage />} />
              <Route path="/log/:dayId" element={<DayPage />} />
              <Route path="/waters" element={<WatersPage />} />
              <Route path="/waters/:waterId" element={<ChartPage />} />
              <Route path="/box" element={<BoxPage />} />
              <Route path="/instruments" element={<InstrumentsPage />} />
              <Route path="/tank" element={<TankPage />} />
              <Route path="*" element={<Lost />} />
            </Routes>
          </Suspense>
        </Screen>
      </main>
    </div>
  )
}

function Header() {
  const navigate = useNavigate()
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (isTyping(event)) return
      const step = [...STEPS, ...PLACES].find((s) => s.key === event.key)
      if (step) void navigate(step.to)
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [navigate])
  const link = ({ isActive }: { isActive: boolean }) =>
    `min-h-11 items-center border-b-4 px-0.5 text-[0.9375rem] font-semibold sm:px-2 sm:text-base ${isActive ? 'border-hot' : 'border-transparent'}`
  return (
    <header className="screen-only flex flex-wrap items-center sm:flex-nowrap gap-x-2 border-b-2 border-ink px-2 sm:gap-x-6 sm:px-3 lg:px-6">
      <a
        href="#step"
        className="sr-only focus:not-sr-only focus:absolute focus:z-30 focus:bg-paper focus:px-4 focus:py-3 focus:font-semibold"
      >
        Past the menu
      </a>
      <NavLink to="/read" className="plate hidden text-xl font-extrabold lg:block">
        Still Thread
      </NavLink>
      <nav aria-label="Steps" className="flex gap-x-1.5 whitespace-nowrap sm:gap-x-3">
        {STEPS.map((step) => (
          <NavLink
            key={step.to}
            to={step.to}
            className={(state) => `flex ${link(state)}`}
            aria-keyshortcuts={step.key}
          >
            {step.text}
          </NavLink>
        ))}
      </nav>
      <nav aria-label="What you have" className="ml-auto flex gap-x-1.5 sm:gap-x-3">
        {PLACES.map((place) => (
          <NavLink
            key={place.to}
            to={place.to}
            // A phone's row has no room for them: there the ways lead through the box and the waters.
            className={(state) => `${link(state)} ${ROOMY.includes(place.to) ? 'hidden md:flex' : 'flex'}`}
            aria-keyshortcuts={place.key}
          >
            {place.text}
          </NavLink>
        ))}
      </nav>
      <ShortcutSheet steps={[...STEPS, ...PLACES]} />
      <AccountMenu />
    </header>
  )
}

function Lost() {
  return (
    <section className="p-6">
      <h1 className="plate text-3xl font-bold">No such page</h1>
      <NavLink to="/read" className="underline">
        Read the water
      </NavLink>
    </section>
  )
}
