export enum CallStatus {
  Expected = 'expected',
  Moored = 'moored',
  Departed = 'departed',
  Cancelled = 'cancelled',
}
