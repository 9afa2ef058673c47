/** The core's sources that the device runs, by their path. */
declare module 'virtual:core' {
  const sources: Record<string, string>
  export default sources
}
