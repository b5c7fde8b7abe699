import { createSlice } from '@reduxjs/toolkit';

/** Whether the server has said that the session has ended while somebody was at work. */
export const sessionEnded = createSlice({
  name: 'sessionEnded',
  initialState: false,
  reducers: { ended: () => true, goesOn: () => false },
});
export const { ended, goesOn } = sessionEnded.actions;
