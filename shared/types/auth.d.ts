declare module '#auth-utils' {
  interface User {
    personId: string
    epoch: number
  }
  interface UserSession {
    loggedInAt: number
  }
}
export {}
