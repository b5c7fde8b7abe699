import { useNavigate } from 'react-router';
import type { UnitsChoice } from '../../contract/base/choices.ts';
import { api, problemOf, useChooseMutation, useSignOutMutation } from './api.ts';
import type { Deeds } from './commands.ts';
import { preferred, unitsOf, type Preferences } from './preferences.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

/** What can be done from anywhere, by menu or finder. */
export function useDeeds({
  isSignedIn,
  showKeys,
  changePassword,
}: Pick<Deeds, 'showKeys' | 'changePassword'> & { isSignedIn: boolean }): Deeds {
  const chosen = useAppSelector((state) => state.preferences);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [keep] = useChooseMutation();
  const [signOut] = useSignOutMutation();
  const keepOrTell = async (value: UnitsChoice): Promise<void> => {
    const answer = await keep({ name: 'units', value });
    if (!('error' in answer)) return;
    const { toast } = await import('sonner');
    toast.error(`Kept on this device alone. ${problemOf(answer.error).message}`);
  };
  return {
    showKeys,
    changePassword,
    prefer: (kind: keyof Preferences, value: string): void => {
      const change = { [kind]: value };
      dispatch(preferred(change));
      if (isSignedIn && kind !== 'theme') void keepOrTell({ ...unitsOf(chosen), ...change });
    },
    signOut: () =>
      void (async () => {
        await signOut();
        dispatch(api.util.resetApiState());
        void navigate('/sign-in');
      })(),
  };
}
