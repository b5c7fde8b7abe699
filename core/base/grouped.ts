/** Groups thousands by a thin space, as every rpm, kilometre and claim is shown. */
export const grouped = (value: number | string): string =>
  String(value).replace(/\B(?=(\d{3})+(?!\d))(?<!\.\d*)/g, '\u202f');
