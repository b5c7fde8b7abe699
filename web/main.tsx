import { lazy, StrictMode, Suspense, type ComponentType, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import {
  createBrowserRouter,
  isRouteErrorResponse,
  Link,
  Navigate,
  RouterProvider,
  useLocation,
  useRouteError,
} from 'react-router';
import { HOUSE, MANAGER, OVERSEE, PREPARE, SHELF_READ, type Role } from '../contract/base/roles.ts';
import { useSessionQuery } from './base/api.ts';
import { Shell } from './base/shell.tsx';
import { store } from './base/store.ts';
import './base/theme.css';
import { Empty, Loading, ProblemNote } from './base/ui.tsx';
import { CataloguePage } from './publish/catalogue-page.tsx';

/** A page whose code is fetched when it is first opened. */
function page<N extends string>(load: () => Promise<Record<N, ComponentType>>, name: N) {
  const Page = lazy(async (): Promise<{ default: ComponentType }> => ({ default: (await load())[name] }));
  return function LazyPage() {
    return (
      <Suspense
        fallback={
          <main className="p-6">
            <Loading what="the page" />
          </main>
        }
      >
        <Page />
      </Suspense>
    );
  };
}
const FitmentPage = page(() => import('./publish/fitment-page.tsx'), 'FitmentPage');
const SignInPage = page(() => import('./base/sign-in.tsx'), 'SignInPage');
const PullsPage = page(() => import('./capture/pulls-page.tsx'), 'PullsPage');
const ComparePage = page(() => import('./compare/compare-page.tsx'), 'ComparePage');
const BenchPage = page(() => import('./correct/bench/bench-page.tsx'), 'BenchPage');
const AirPage = page(() => import('./correct/air-page.tsx'), 'AirPage');
const JudgePage = page(() => import('./judge/judge-page.tsx'), 'JudgePage');
const PlanPage = page(() => import('./plan/plan-page.tsx'), 'PlanPage');
const EvidencePage = page(() => import('./publish/evidence-page.tsx'), 'EvidencePage');
const ClaimPage = page(() => import('./publish/claim-page.tsx'), 'ClaimPage');
const ClaimsPage = page(() => import('./publish/claims-page.tsx'), 'ClaimsPage');
const ReviewPage = page(() => import('./publish/review-page.tsx'), 'ReviewPage');
const TodayPage = page(() => import('./publish/today-page.tsx'), 'TodayPage');
const TestsPage = page(() => import('./publish/tests-page.tsx'), 'TestsPage');
const RegisterLayout = page(() => import('./register/layout.tsx'), 'RegisterLayout');
const TestWorkspace = page(() => import('./publish/test-workspace.tsx'), 'TestWorkspace');
const FirstStage = page(() => import('./publish/test-workspace.tsx'), 'FirstStage');
const EditPlanPage = page(() => import('./plan/new-test-page.tsx'), 'EditPlanPage');
const NewTestPage = page(() => import('./plan/new-test-page.tsx'), 'NewTestPage');
const RunSheetPage = page(() => import('./plan/run-sheet-page.tsx'), 'RunSheetPage');
const SchedulePage = page(() => import('./plan/schedule-page.tsx'), 'SchedulePage');
const UpgradesPage = page(() => import('./publish/upgrades-page.tsx'), 'UpgradesPage');
const CoveragePage = page(() => import('./publish/coverage-page.tsx'), 'CoveragePage');
const ApplicationsPage = page(() => import('./register/applications.tsx'), 'ApplicationsPage');
const CalibrationsPage = page(() => import('./register/calibrations.tsx'), 'CalibrationsPage');
const DynoPage = page(() => import('./register/dyno-page.tsx'), 'DynoPage');
const DynosPage = page(() => import('./register/dynos.tsx'), 'DynosPage');
const NewDynoPage = page(() => import('./register/dyno-form.tsx'), 'NewDynoPage');
const RegisterFitmentPage = page(() => import('./register/fitments.tsx'), 'FitmentPage');
const FitmentsPage = page(() => import('./register/fitments.tsx'), 'FitmentsPage');
const NewFitmentPage = page(() => import('./register/fitments.tsx'), 'NewFitmentPage');
const ImportPage = page(() => import('./register/import-page.tsx'), 'ImportPage');
const NewPartPage = page(() => import('./register/new-part-page.tsx'), 'NewPartPage');
const PartPage = page(() => import('./register/part-page.tsx'), 'PartPage');
const UsesPage = page(() => import('./register/uses-page.tsx'), 'UsesPage');
const CorrectionsPage = page(() => import('./publish/corrections-page.tsx'), 'CorrectionsPage');
const LegacyPage = page(() => import('./publish/legacy-page.tsx'), 'LegacyPage');
const PolicyPage = page(() => import('./register/policy-page.tsx'), 'PolicyPage');
const PartsPage = page(() => import('./register/parts.tsx'), 'PartsPage');
const NewVehiclePage = page(() => import('./register/vehicles.tsx'), 'NewVehiclePage');
const VehiclePage = page(() => import('./register/vehicles.tsx'), 'VehiclePage');
const ShelfPage = page(() => import('./publish/shelf-page.tsx'), 'ShelfPage');
const TrailPage = page(() => import('./publish/trail-page.tsx'), 'TrailPage');
const VehiclesPage = page(() => import('./register/vehicles.tsx'), 'VehiclesPage');

/** Pages of the house: whoever is signed out goes to the sign-in and comes back. */
function SignedIn({ children, roles }: { children: ReactNode; roles?: readonly Role[] }) {
  const { data, error, refetch } = useSessionQuery();
  const location = useLocation();
  if (error)
    return (
      <main className="p-6">
        <ProblemNote error={error} again={() => void refetch()} />
      </main>
    );
  if (!data)
    return (
      <main className="p-6">
        <Loading what="your session" />
      </main>
    );
  const from = `${location.pathname}${location.search}${location.hash}`;
  if (!data.person) return <Navigate to="/sign-in" replace state={{ from }} />;
  if (roles && !roles.includes(data.person.role)) return <NotForThem role={data.person.role} />;
  return children;
}
const NotForThem = ({ role }: { role: Role }) => (
  <main className="p-6">
    <h1 className="mb-3">This page is for others</h1>
    <Empty title={`Not for: ${role}`}>
      As {role} you do not need it. Go to the <Link to="/tests">tests</Link> or to the{' '}
      <Link to="/catalogue">catalogue</Link>.
    </Empty>
  </main>
);
function Home() {
  const { data } = useSessionQuery();
  return data ? <Navigate to={data.person ? '/today' : '/catalogue'} replace /> : null;
}
const NotFound = () => (
  <main className="p-6">
    <h1 className="mb-3">There is no such page</h1>
    <Empty title="Nothing is at this address">
      Go to the <Link to="/catalogue">catalogue</Link> or to the <Link to="/tests">tests</Link>.
    </Empty>
  </main>
);
function Broken() {
  const error = useRouteError();
  return (
    <main className="p-6">
      <ProblemNote
        message={
          isRouteErrorResponse(error)
            ? `${error.status} ${error.statusText}`
            : 'This page failed to draw. Reload it; nothing you entered before was lost.'
        }
      />
    </main>
  );
}

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Broken />,
    children: [
      { path: '/', element: <Home /> },
      { path: '/sign-in', element: <SignInPage /> },
      {
        path: '/today',
        element: (
          <SignedIn>
            <TodayPage />
          </SignedIn>
        ),
      },
      {
        path: '/tests',
        element: (
          <SignedIn>
            <TestsPage />
          </SignedIn>
        ),
      },
      {
        path: '/tests/new',
        element: (
          <SignedIn roles={MANAGER}>
            <NewTestPage />
          </SignedIn>
        ),
      },
      {
        path: '/tests/:testId/plan/edit',
        element: (
          <SignedIn roles={MANAGER}>
            <EditPlanPage />
          </SignedIn>
        ),
      },
      {
        path: '/tests/:testId/bench',
        element: (
          <SignedIn>
            <BenchPage />
          </SignedIn>
        ),
      },
      {
        path: '/tests/:testId/run-sheet',
        element: (
          <SignedIn>
            <RunSheetPage />
          </SignedIn>
        ),
      },
      {
        path: '/coverage',
        element: (
          <SignedIn roles={HOUSE}>
            <CoveragePage />
          </SignedIn>
        ),
      },
      {
        path: '/coverage/:fitmentId/order',
        element: (
          <SignedIn roles={HOUSE}>
            <UpgradesPage />
          </SignedIn>
        ),
      },
      {
        path: '/schedule',
        element: (
          <SignedIn roles={HOUSE}>
            <SchedulePage />
          </SignedIn>
        ),
      },
      {
        path: '/register',
        element: (
          <SignedIn roles={HOUSE}>
            <RegisterLayout />
          </SignedIn>
        ),
        children: [
          { index: true, element: <Navigate to="/register/fitments" replace /> },
          { path: 'fitments', element: <FitmentsPage /> },
          {
            path: 'fitments/new',
            element: (
              <SignedIn roles={MANAGER}>
                <NewFitmentPage />
              </SignedIn>
            ),
          },
          { path: 'fitments/:fitmentId', element: <RegisterFitmentPage /> },
          { path: 'vehicles', element: <VehiclesPage /> },
          {
            path: 'vehicles/new',
            element: (
              <SignedIn roles={PREPARE}>
                <NewVehiclePage />
              </SignedIn>
            ),
          },
          { path: 'vehicles/:vehicleId', element: <VehiclePage /> },
          { path: 'parts', element: <PartsPage /> },
          {
            path: 'parts/new',
            element: (
              <SignedIn roles={MANAGER}>
                <NewPartPage />
              </SignedIn>
            ),
          },
          { path: 'parts/:partId', element: <PartPage /> },
          { path: 'applications', element: <ApplicationsPage /> },
          { path: 'calibrations', element: <CalibrationsPage /> },
          { path: 'dynos', element: <DynosPage /> },
          {
            path: 'dynos/new',
            element: (
              <SignedIn roles={MANAGER}>
                <NewDynoPage />
              </SignedIn>
            ),
          },
          { path: 'dynos/:dynoId', element: <DynoPage /> },
          { path: 'uses', element: <UsesPage /> },
          { path: 'before', element: <LegacyPage /> },
          { path: 'policy', element: <PolicyPage /> },
          {
            path: 'import/:kind',
            element: (
              <SignedIn roles={MANAGER}>
                <ImportPage />
              </SignedIn>
            ),
          },
        ],
      },
      {
        path: '/tests/:testId',
        element: (
          <SignedIn>
            <TestWorkspace />
          </SignedIn>
        ),
        children: [
          { index: true, element: <FirstStage /> },
          { path: 'plan', element: <PlanPage /> },
          { path: 'pulls', element: <PullsPage /> },
          { path: 'air', element: <AirPage /> },
          { path: 'compare', element: <ComparePage /> },
          { path: 'judge', element: <JudgePage /> },
          { path: 'claim', element: <ClaimPage /> },
        ],
      },
      {
        path: '/claims',
        element: (
          <SignedIn roles={HOUSE}>
            <ClaimsPage />
          </SignedIn>
        ),
      },
      {
        path: '/shelf',
        element: (
          <SignedIn roles={SHELF_READ}>
            <ShelfPage />
          </SignedIn>
        ),
      },
      {
        path: '/trail',
        element: (
          <SignedIn roles={OVERSEE}>
            <TrailPage />
          </SignedIn>
        ),
      },
      {
        path: '/claims/:claimId',
        element: (
          <SignedIn roles={HOUSE}>
            <ReviewPage />
          </SignedIn>
        ),
      },
      { path: '/catalogue', element: <CataloguePage /> },
      { path: '/catalogue/:slug', element: <FitmentPage /> },
      { path: '/corrections', element: <CorrectionsPage /> },
      { path: '/evidence/:code', element: <EvidencePage /> },
      { path: '*', element: <NotFound /> },
    ],
  },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
