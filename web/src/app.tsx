import { lazy, Suspense } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { useSession } from './data/account'
import { SignIn } from './features/account/SignIn'
import { Frame } from './frame/Frame'
import { Again } from './features/study/Again'
import { Studies } from './features/study/Studies'
import { Register } from './features/table/Register'
import { Loading } from './ui/Trouble'

const Import = lazy(() => import('./features/table/Import').then((m) => ({ default: m.Import })))
const GoesWith = lazy(() => import('./features/finding/GoesWith').then((m) => ({ default: m.GoesWith })))
const Pictures = lazy(() => import('./features/picture/Pictures').then((m) => ({ default: m.Pictures })))
const Rows = lazy(() => import('./features/table/Rows').then((m) => ({ default: m.Rows })))
const Preparation = lazy(() => import('./features/preparation/Preparation').then((m) => ({ default: m.Preparation })))
const Plan = lazy(() => import('./features/trial/Plan').then((m) => ({ default: m.Plan })))
const SearchPage = lazy(() => import('./features/search/SearchPage').then((m) => ({ default: m.SearchPage })))
const GuidedPage = lazy(() => import('./features/search/GuidedPage').then((m) => ({ default: m.GuidedPage })))
const Standings = lazy(() => import('./features/judgment/Standings').then((m) => ({ default: m.Standings })))
const BesidePage = lazy(() => import('./features/beside/Beside').then((m) => ({ default: m.BesidePage })))
const JudgmentPage = lazy(() => import('./features/judgment/Judgment').then((m) => ({ default: m.JudgmentPage })))
const Tree = lazy(() => import('./features/reasons/Tree').then((m) => ({ default: m.Tree })))
const Reasons = lazy(() => import('./features/reasons/Reasons').then((m) => ({ default: m.Reasons })))
const ActionList = lazy(() => import('./features/decision/ActionList').then((m) => ({ default: m.ActionList })))
const Batch = lazy(() => import('./features/decision/Batch').then((m) => ({ default: m.Batch })))
const Scored = lazy(() => import('./features/decision/Scored').then((m) => ({ default: m.Scored })))
const ServicePage = lazy(() => import('./features/work/ServicePage').then((m) => ({ default: m.ServicePage })))
const DossierPage = lazy(() => import('./features/work/DossierPage').then((m) => ({ default: m.DossierPage })))
const RecheckPage = lazy(() => import('./features/work/RecheckPage').then((m) => ({ default: m.RecheckPage })))
const TakeAwayPage = lazy(() => import('./features/work/TakeAwayPage').then((m) => ({ default: m.TakeAwayPage })))
const Logbook = lazy(() => import('./features/logbook/Logbook').then((m) => ({ default: m.Logbook })))
const People = lazy(() => import('./features/account/People').then((m) => ({ default: m.People })))
const Parts = lazy(() => import('./ui/Parts').then((m) => ({ default: m.Parts })))

export function App() {
  const session = useSession()
  if (session.isPending) return <Loading what="your session" />
  if (!session.data) return <SignIn />
  return (
    <Suspense fallback={<Loading what="this screen" />}>
      <Routes>
        <Route element={<Frame session={session.data} />}>
          <Route index element={<Studies />} />
          <Route path="import" element={<Import />} />
          <Route path="study/:studyId">
            <Route index element={<Navigate to="table" replace />} />
            <Route path="table" element={<Register />} />
            <Route path="table/:tableId" element={<Register />} />
            <Route path="table/:tableId/rows" element={<Rows />} />
            <Route path="table/:tableId/pictures" element={<Pictures />} />
            <Route path="table/:tableId/goes-with" element={<GoesWith />} />
            <Route path="import" element={<Import />} />
            <Route path="preparation" element={<Preparation />} />
            <Route path="trials" element={<Plan />} />
            <Route path="trials/search/:searchId" element={<SearchPage />} />
            <Route path="trials/guided/:searchId" element={<GuidedPage />} />
            <Route path="judgment" element={<Standings />} />
            <Route path="judgment/beside" element={<BesidePage />} />
            <Route path="judgment/:trialId" element={<JudgmentPage />} />
            <Route path="reasons" element={<Reasons />} />
            <Route path="reasons/tree" element={<Tree />} />
            <Route path="decisions" element={<Batch />} />
            <Route path="decisions/service" element={<ServicePage />} />
            <Route path="decisions/away" element={<TakeAwayPage />} />
            <Route path="decisions/dossier" element={<DossierPage />} />
            <Route path="decisions/recheck" element={<RecheckPage />} />
            <Route path="decisions/:scoringId" element={<Scored />} />
            <Route path="decisions/:scoringId/list/:decisionId" element={<ActionList />} />
            <Route path="again" element={<Again />} />
            <Route path="logbook" element={<Logbook />} />
          </Route>
          <Route path="people" element={<People />} />
          <Route path="ui" element={<Parts />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Route>
      </Routes>
    </Suspense>
  )
}
