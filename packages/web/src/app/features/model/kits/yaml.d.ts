/** Files that are built in as text. */
declare module '*.yaml' {
  const text: string;
  export default text;
}
