/** The package brings no types: what the checks use of it. */
declare module 'dxf' {
  export function parseString(text: string): unknown;
}
