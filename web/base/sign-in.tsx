import { Navigate, useLocation, useNavigate } from 'react-router';
import { api, useDemoPeopleQuery, useDemoSignInMutation, useSessionQuery, useSignInMutation } from './api.ts';
import { SignInRequest } from '../../contract/base/http.ts';
import { RecordForm } from './record-form.tsx';
import { useAppDispatch } from './store.ts';
import { ProblemNote } from './ui.tsx';

const WHO = [
  { name: 'email', label: 'E-mail', kind: 'email', autoComplete: 'username', span: 12 },
  { name: 'password', label: 'Password', kind: 'password', autoComplete: 'current-password', span: 12 },
] as const;

/** Sign-in; in demo mode the sample people are one click away. */
export function SignInPage() {
  const { data: session } = useSessionQuery();
  const { data: people } = useDemoPeopleQuery(undefined, { skip: !session?.demo });
  const [signIn, { error, isLoading }] = useSignInMutation();
  const [demoSignIn, demo] = useDemoSignInMutation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const location = useLocation();
  const next = (location.state as { from?: string } | null)?.from ?? '/today';
  const arrive = async (asked: Promise<unknown>): Promise<void> => {
    const answer = (await asked) as { error?: unknown };
    if (answer.error) return;
    dispatch(api.util.resetApiState());
    void navigate(next);
  };
  if (session?.person) return <Navigate to={next} replace />;
  return (
    <main className="mx-auto grid max-w-[880px] gap-10 px-6 py-14 md:grid-cols-[1fr_1.15fr]">
      <section>
        <h1>Sign in</h1>
        <p className="mb-5 mt-2 text-soft">
          Plan comparisons, bring in pulls, judge what they show, publish what holds.
        </p>
        <RecordForm
          schema={SignInRequest}
          values={{ email: '', password: '' }}
          groups={[{ title: '', fields: WHO }]}
          verb="Sign in"
          saving={isLoading}
          problem={error}
          save={(who) => arrive(signIn(who))}
        />
      </section>
      {people && (
        <DemoPeople
          people={people}
          busy={demo.isLoading}
          problem={demo.error}
          onChoose={(personId) => void arrive(demoSignIn({ personId }))}
        />
      )}
    </main>
  );
}

function DemoPeople({
  people,
  busy,
  problem,
  onChoose,
}: {
  people: readonly { id: string; name: string; role: string; does: string }[];
  busy: boolean;
  problem: unknown;
  onChoose: (personId: string) => void;
}) {
  return (
    <section
      aria-labelledby="demo-people"
      className="border-t border-rule pt-6 md:border-l md:border-t-0 md:pl-10 md:pt-0"
    >
      <h2 id="demo-people">Demo: enter as a sample person</h2>
      <p className="mb-3 mt-1 text-soft">All of them, their cars and their parts are invented.</p>
      <ul className="border-t border-ink">
        {people.map((person) => (
          <li key={person.id} className="border-b border-rule">
            <button
              type="button"
              disabled={busy}
              onClick={() => onChoose(person.id)}
              className="grid w-full grid-cols-[1fr_auto] items-baseline gap-x-3 px-1 py-2.5 text-left hover:bg-faint"
            >
              <span className="font-semibold">{person.name}</span>
              <span className="text-soft">{person.role}</span>
              <span className="col-span-2 text-[12.5px] text-soft">{person.does}</span>
            </button>
          </li>
        ))}
      </ul>
      <ProblemNote error={problem} />
    </section>
  );
}
