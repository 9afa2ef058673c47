/** The shell: who is here, which step, and what still waits to be sent. */
import { Popover } from 'radix-ui'
import { lazy, Suspense, useEffect, useState } from 'react'
import { BrowserRouter, Navigate, NavLink, Route, Routes, useLocation, useNavigate } from 'react-router'
import { AccountMenu } from './account/AccountMenu'
import { resetAsked, ResetPage } from './account/ResetPage'
import { ConnectionBar } from './ui/ConnectionBar'
import { hearWho } from './offline/kept'
import { flush } from './offline/outbox'
import { sendPractised } from './offline/practised'
import { OutingProvider, useOuting } from './state/outing'
import { PersonProvider, usePerson, useSession, useUnits } from './state/person'
import { FishPage } from './steps/fish/FishPage'
import { ReadPage } from './steps/read/ReadPage'
import { RigPage } from './steps/rig/RigPage'
import { Screen } from './ui/Failed'
import { Trouble, Waiting } from './ui/Notice'
import { useMedia } from './ui/useMedia'
import { Help, isTyping } from './ui/Help'
import { Tour } from './welcome/Tour'
import { WelcomePage } from './welcome/WelcomePage'

const LookBackPage = lazy(() =>
  import('./steps/lookback/LookBackPage').then((m) => ({ default: m.LookBackPage })),
)
const DaysPage = lazy(() => import('./steps/lookback/DaysPage').then((m) => ({ default: m.DaysPage })))
const RatesPage = lazy(() => import('./steps/lookback/RatesPage').then((m) => ({ default: m.RatesPage })))
const AuditPage = lazy(() => import('./steps/lookback/AuditPage').then((m) => ({ default: m.AuditPage })))
const YearPage = lazy(() => import('./steps/lookback/YearPage').then((m) => ({ default: m.YearPage })))
const LinePage = lazy(() => import('./box/LinePage').then((m) => ({ default: m.LinePage })))
const PosterPage = lazy(() => import('./steps/lookback/PosterPage').then((m) => ({ default: m.PosterPage })))
const DayPage = lazy(() => import('./steps/lookback/DayPage').then((m) => ({ default: m.DayPage })))
const WatersPage = lazy(() => import('./waters/WatersPage').then((m) => ({ default: m.WatersPage })))
const LakePage = lazy(() => import('./lake/LakePage').then((m) => ({ default: m.LakePage })))
const ChartPage = lazy(() => import('./chart/ChartPage').then((m) => ({ default: m.ChartPage })))
const InstrumentsPage = lazy(() =>
  import('./instruments/InstrumentsPage').then((m) => ({ default: m.InstrumentsPage })),
)
const YouPage = lazy(() => import('./account/YouPage').then((m) => ({ default: m.YouPage })))
const YourLogPage = lazy(() => import('./account/YourLogPage').then((m) => ({ default: m.YourLogPage })))
const CardPage = lazy(() => import('./steps/rig/CardPage').then((m) => ({ default: m.CardPage })))
const TankPage = lazy(() => import('./tank/TankPage').then((m) => ({ default: m.TankPage })))
const PracticePage = lazy(() => import('./practice/PracticePage').then((m) => ({ default: m.PracticePage })))
const PracticeDayPage = lazy(() =>
  import('./practice/PracticeDayPage').then((m) => ({ default: m.PracticeDayPage })),
)
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
  { to: '/practice', text: 'Practice', key: '9' },
] as const
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
  const reset = resetAsked(window.location.pathname)
  if (reset) return <ResetPage {...reset} />
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
  const [help, setHelp] = useState(false)
  useEffect(() => {
    document.documentElement.dataset.theme = theme
  }, [theme])
  useEffect(() => {
    const send = () => void flush(username).then(() => sendPractised(username))
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
      <Header onHelp={() => setHelp(true)} />
      <ConnectionBar />
      <Tour />
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
              <Route path="/log/days" element={<DaysPage />} />
              <Route path="/log/rates" element={<RatesPage />} />
              <Route path="/log/advice" element={<AuditPage />} />
              <Route path="/log/year" element={<YearPage />} />
              <Route path="/log/day/:dayId" element={<DayPage />} />
              <Route path="/log/:dayId" element={<DayPage />} />
              <Route path="/poster" element={<PosterPage />} />
              <Route path="/waters" element={<WatersPage />} />
              <Route path="/waters/:waterId" element={<ChartPage />} />
              <Route path="/waters/:waterId/year" element={<LakePage />} />
              <Route path="/box" element={<BoxPage />} />
              <Route path="/box/lines/:lineId" element={<LinePage />} />
              <Route path="/instruments" element={<InstrumentsPage />} />
              <Route path="/you" element={<YouPage />} />
              <Route path="/you/log" element={<YourLogPage />} />
              <Route path="/tank" element={<TankPage />} />
              <Route path="/practice" element={<PracticePage />} />
              <Route path="/practice/:dayId" element={<PracticeDayPage />} />
              <Route path="*" element={<Lost />} />
            </Routes>
          </Suspense>
        </Screen>
      </main>
      <ThumbBar onHelp={() => setHelp(true)} />
      <Help steps={[...STEPS, ...PLACES]} open={help} onOpenChange={setHelp} />
    </div>
  )
}

const PHONE = '(max-width: 39.99rem)'

function Header({ onHelp }: { onHelp(): void }) {
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
  const phone = useMedia(PHONE)
  const link = ({ isActive }: { isActive: boolean }) =>
    `flex min-h-11 items-center border-b-4 px-2 font-semibold ${isActive ? 'border-hot' : 'border-transparent'}`
  return (
    <>
      <a
        href="#step"
        className="sr-only focus:not-sr-only focus:absolute focus:z-30 focus:bg-paper focus:px-4 focus:py-3 focus:font-semibold"
      >
        Past the menu
      </a>
      {!phone && (
        <header className="screen-only flex flex-wrap items-center gap-x-6 border-b-2 border-ink px-3 lg:px-6">
          <NavLink to="/read" className="plate hidden text-xl font-extrabold lg:block">
            Still Thread
          </NavLink>
          <nav aria-label="Steps" className="flex gap-x-3 whitespace-nowrap">
            {STEPS.map((step) => (
              <NavLink key={step.to} to={step.to} className={link} aria-keyshortcuts={step.key}>
                {step.text}
              </NavLink>
            ))}
          </nav>
          <nav aria-label="What you have" className="ml-auto flex gap-x-3">
            {PLACES.map((place) => (
              <NavLink key={place.to} to={place.to} className={link} aria-keyshortcuts={place.key}>
                {place.text}
              </NavLink>
            ))}
          </nav>
          <button
            type="button"
            aria-label="Help"
            className="size-11 shrink-0 text-lg font-bold"
            onClick={onHelp}
          >
            ?
          </button>
          <AccountMenu />
        </header>
      )}
    </>
  )
}

/** On a phone the steps lie under the thumb, and what is needed seldom behind them. */
function ThumbBar({ onHelp }: { onHelp(): void }) {
  const phone = useMedia(PHONE)
  const { pathname } = useLocation()
  const [open, setOpen] = useState(false)
  if (!phone) return null
  const elsewhere = PLACES.some((place) => pathname.startsWith(place.to))
  const cell = (active: boolean) =>
    `flex min-h-14 grow basis-0 items-center justify-center border-t-4 px-0.5 text-center text-[0.9375rem] leading-tight font-semibold ${active ? 'border-hot' : 'border-transparent'}`
  return (
    <nav
      aria-label="Steps"
      className="screen-only sticky bottom-0 z-20 flex flex-wrap border-t-2 border-ink bg-paper pb-[env(safe-area-inset-bottom)]"
    >
      {STEPS.map((step) => (
        <NavLink key={step.to} to={step.to} className={({ isActive }) => cell(isActive)}>
          {step.text}
        </NavLink>
      ))}
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className={cell(elsewhere)}>More</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            side="top"
            align="end"
            sideOffset={4}
            collisionPadding={8}
            aria-label="What you have"
            className="z-30 w-56 border-2 border-ink bg-paper"
          >
            {PLACES.map((place) => (
              <NavLink
                key={place.to}
                to={place.to}
                onClick={() => setOpen(false)}
                className="flex min-h-14 items-center border-b-2 border-rule px-4 text-lg font-semibold"
              >
                {place.text}
              </NavLink>
            ))}
            <button
              type="button"
              className="flex min-h-14 w-full items-center border-b-2 border-rule px-4 text-lg font-semibold"
              onClick={() => {
                setOpen(false)
                onHelp()
              }}
            >
              Help
            </button>
            <AccountMenu />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </nav>
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
