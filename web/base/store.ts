import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { keepPreferences, preferences } from './preferences.ts';
import { onTheWay } from './on-the-way.ts';
import { sessionEnded } from './session-ended.ts';

export const store = configureStore({
  reducer: {
    [api.reducerPath]: api.reducer,
    preferences: preferences.reducer,
    sessionEnded: sessionEnded.reducer,
    onTheWay: onTheWay.reducer,
  },
  middleware: (standard) => standard().concat(api.middleware),
});
export type State = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<State>();

let kept = store.getState().preferences;
const applyTheme = (): void => {
  document.documentElement.dataset.theme = kept.theme;
};
applyTheme();
store.subscribe(() => {
  const now = store.getState().preferences;
  if (now === kept) return;
  kept = now;
  keepPreferences(now);
  applyTheme();
});
