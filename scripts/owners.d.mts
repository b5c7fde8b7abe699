export function register(home: string, pid?: number): void;
export function release(home: string, pid?: number): void;
export function owners(home: string): number[];
