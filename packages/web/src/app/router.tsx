import { createBrowserRouter, Outlet, useRouteError } from 'react-router';
import { Failed, Loading } from '../ui/states.tsx';
import { Shell } from './Shell.tsx';
import { SignedIn } from './session.tsx';
import { wording } from './wording.ts';

const RouteFailed = () => <Failed error={useRouteError() as Error} again={() => location.reload()} />;
const page = <T extends Record<string, unknown>>(load: () => Promise<T>, name: keyof T & string) => ({
  lazy: async () => ({ Component: (await load())[name] as React.ComponentType }),
});

/** Every page has an address; each is fetched when it is first needed. */
export const router = createBrowserRouter([
  {
    element: <Outlet />,
    errorElement: <RouteFailed />,
    HydrateFallback: () => <Loading what={wording.kanonos} />,
    children: [
      { path: '/signin', ...page(() => import('../features/signin/SignInPage.tsx'), 'SignInPage') },
      { path: '/password/:token', ...page(() => import('../features/signin/PasswordPage.tsx'), 'PasswordPage') },
      {
        element: (
          <SignedIn>
            <Shell />
          </SignedIn>
        ),
        errorElement: <RouteFailed />,
        children: [
          {
            errorElement: <RouteFailed />,
            children: [
              { path: '/', ...page(() => import('../features/desk/DeskPage.tsx'), 'DeskPage') },
              { path: '/submitted', ...page(() => import('../features/desk/SubmittedPage.tsx'), 'SubmittedPage') },
              { path: '/checked-out', ...page(() => import('../features/desk/CheckedOutPage.tsx'), 'CheckedOutPage') },
              { path: '/register', ...page(() => import('../features/register/RegisterPage.tsx'), 'RegisterPage') },
              { path: '/removed', ...page(() => import('../features/removed/RemovedPage.tsx'), 'RemovedPage') },
              { path: '/find', ...page(() => import('../features/find/FindPage.tsx'), 'FindPage') },
              { path: '/new', ...page(() => import('../features/registering/RegisteringPage.tsx'), 'RegisteringPage') },
              { path: '/d/:number/edit', ...page(() => import('../features/editing/EditPage.tsx'), 'EditPage') },
              { path: '/d/:number', ...page(() => import('../features/document/DocumentPage.tsx'), 'DocumentPage') },
              {
                path: '/d/:number/compare',
                ...page(() => import('../features/comparison/ComparePage.tsx'), 'ComparePage'),
              },
              {
                path: '/d/:number/release',
                ...page(() => import('../features/document/ReleasePage.tsx'), 'ReleasePage'),
              },
              {
                path: '/d/:number/review',
                ...page(() => import('../features/reviews/ReviewPage.tsx'), 'ReviewPage'),
              },
              { path: '/f/:number', ...page(() => import('../features/document/LastingFile.tsx'), 'LastingFile') },
              { path: '/items/:kind/:code', ...page(() => import('../features/links/ItemPage.tsx'), 'ItemPage') },
              { path: '/tasks/several', ...page(() => import('../features/tasks/SeveralPage.tsx'), 'SeveralPage') },
              { path: '/tasks/:assignment', ...page(() => import('../features/tasks/DecidePage.tsx'), 'DecidePage') },
              {
                path: '/changes',
                ...page(() => import('../features/changes/ChangeNotesPage.tsx'), 'ChangeNotesPage'),
              },
              { path: '/rounds', ...page(() => import('../features/rounds/RoundsPage.tsx'), 'RoundsPage') },
              { path: '/horizon', ...page(() => import('../features/horizon/HorizonPage.tsx'), 'HorizonPage') },
              { path: '/reading', ...page(() => import('../features/reading/ReadingPage.tsx'), 'ReadingPage') },
              {
                path: '/reading/:id',
                ...page(() => import('../features/reading/ReadAndSignPage.tsx'), 'ReadAndSignPage'),
              },
              { path: '/numbers', ...page(() => import('../features/numbers/NumbersPage.tsx'), 'NumbersPage') },
              { path: '/rules/types/:id?', ...page(() => import('../features/rules/TypesPage.tsx'), 'TypesPage') },
              {
                path: '/rules/signatories',
                ...page(() => import('../features/rules/signatories/SignatoriesPage.tsx'), 'SignatoriesPage'),
              },
              {
                path: '/rules/rounds',
                ...page(() => import('../features/roundRules/RoundRulesPage.tsx'), 'RoundRulesPage'),
              },
              { path: '/forms', ...page(() => import('../features/forms/FormsPage.tsx'), 'FormsPage') },
              { path: '/forms/:id', ...page(() => import('../features/forms/FillFormPage.tsx'), 'FillFormPage') },
              { path: '/records/:id', ...page(() => import('../features/forms/RecordPage.tsx'), 'RecordPage') },
              { path: '/rules/forms', ...page(() => import('../features/forms/EditFormsPage.tsx'), 'EditFormsPage') },
              { path: '/rules/lists', ...page(() => import('../features/rules/ListsPage.tsx'), 'ListsPage') },
              { path: '/rules/filing', ...page(() => import('../features/filing/FilingPage.tsx'), 'FilingPage') },
              { path: '/intake', ...page(() => import('../features/intake/IntakePage.tsx'), 'IntakePage') },
              { path: '/imports', ...page(() => import('../features/imports/ImportsPage.tsx'), 'ImportsPage') },
              { path: '/imports/check', ...page(() => import('../features/imports/CheckPage.tsx'), 'CheckPage') },
              { path: '/imports/:id', ...page(() => import('../features/imports/ImportPage.tsx'), 'ImportPage') },
              {
                path: '/rules/blueprints',
                ...page(() => import('../features/blueprints/BlueprintsPage.tsx'), 'BlueprintsPage'),
              },
              {
                path: '/rules/templates',
                ...page(() => import('../features/templates/TemplatesPage.tsx'), 'TemplatesPage'),
              },
              {
                path: '/rules/organisation',
                ...page(() => import('../features/rules/OrganisationPage.tsx'), 'OrganisationPage'),
              },
              { path: '/setup', ...page(() => import('../features/setup/SetupPage.tsx'), 'SetupPage') },
              { path: '/people', ...page(() => import('../features/people/PeoplePage.tsx'), 'PeoplePage') },
              { path: '/trail', ...page(() => import('../features/trail/TrailPage.tsx'), 'TrailPage') },
              { path: '/system', ...page(() => import('../features/system/SystemPage.tsx'), 'SystemPage') },
              { path: '/mail', ...page(() => import('../features/mail/MailPage.tsx'), 'MailPage') },
              { path: '/profile', ...page(() => import('../features/profile/ProfilePage.tsx'), 'ProfilePage') },
              ...(import.meta.env.DEV
                ? [{ path: '/pieces', ...page(() => import('../ui/PiecesPage.tsx'), 'PiecesPage') }]
                : []),
              { path: '*', element: <Failed error={new Error('There is no page at this address.')} /> },
            ],
          },
        ],
      },
    ],
  },
]);
