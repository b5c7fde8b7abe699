/** The check library ships no types; these are the calls the checks make. */
declare module 'psychrolib' {
  const psychrolib: {
    SI: number;
    SetUnitSystem(system: number): void;
    GetSatVapPres(tC: number): number;
    GetRelHumFromTWetBulb(tC: number, wetC: number, pa: number): number;
    GetHumRatioFromRelHum(tC: number, rh: number, pa: number): number;
    GetMoistAirDensity(tC: number, w: number, pa: number): number;
  };
  export default psychrolib;
}
