/** A large file on its way in parts: how much of it has arrived, and whether the connection is waited for. */
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export interface FileOnTheWay {
  readonly name: string;
  readonly sent: number;
  readonly of: number;
  readonly isAway: boolean;
}
export const onTheWay = createSlice({
  name: 'onTheWay',
  initialState: { file: null as FileOnTheWay | null },
  reducers: {
    isAt: (state, { payload }: PayloadAction<FileOnTheWay>) => {
      state.file = payload;
    },
    isOver: (state) => {
      state.file = null;
    },
  },
});
export const { isAt, isOver } = onTheWay.actions;
