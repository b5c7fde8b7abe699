import { useNavigate } from 'react-router';
import { SignInRequest, type Person } from '../../contract/base/http.ts';
import { api, RECORDS, useDemoSignInMutation, useSignInMutation } from './api.ts';
import { RecordForm } from './record-form.tsx';
import { goesOn } from './session-ended.ts';
import { useAppDispatch } from './store.ts';
import { Dialog } from './dialog.tsx';
import { Button, ProblemNote } from './ui.tsx';

const WHO = [
  { name: 'email', label: 'E-mail', kind: 'email', autoComplete: 'username', span: 12 },
  { name: 'password', label: 'Password', kind: 'password', autoComplete: 'current-password', span: 12 },
] as const;

/** The session has ended: whoever was at work signs in over the page and goes on; what was typed stays behind it. */
export function SignInAgain({ person, demo }: { person: Person; demo: boolean }) {
  const [signIn, byPassword] = useSignInMutation();
  const [enter, asSample] = useDemoSignInMutation();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const arrive = async (
    asked: Promise<{ data?: { person: Person | null }; error?: unknown }>,
  ): Promise<void> => {
    const { data, error } = await asked;
    if (error) return;
    dispatch(goesOn());
    if (data?.person?.id === person.id) {
      dispatch(api.util.invalidateTags([...RECORDS]));
      return;
    }
    // Somebody else: nothing of the page before is theirs.
    dispatch(api.util.resetApiState());
    void navigate('/tests');
  };
  return (
    <Dialog open onClose={() => dispatch(goesOn())} title="Your session has ended">
      <p className="mb-3">
        Sign in to go on, {person.name}. What you typed is still on the page; press its button again
        afterwards.
      </p>
      {demo && (
        <div className="mb-4">
          <Button
            kind="main"
            disabled={asSample.isLoading}
            onClick={() => void arrive(enter({ personId: person.id }))}
          >
            Go on as {person.name}
          </Button>
          <ProblemNote error={asSample.error} />
        </div>
      )}
      <RecordForm
        schema={SignInRequest}
        values={{ email: person.email, password: '' }}
        groups={[{ title: '', fields: WHO }]}
        verb="Sign in"
        saving={byPassword.isLoading}
        problem={byPassword.error}
        save={(who) => arrive(signIn(who))}
      />
    </Dialog>
  );
}
