export enum CallStatus {
  Expected = 'expected',
  Moored = 'moored',
  Sailed = 'sailed',
}
