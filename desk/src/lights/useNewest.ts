// One answer at a time: of what is asked meanwhile only the newest is sent.
type Ask = () => Promise<unknown>

export function useNewest(complain: (error: unknown) => void) {
  let busy = false
  let waiting: Ask | null = null
  async function run(): Promise<void> {
    busy = true
    while (waiting) {
      const ask: Ask = waiting
      waiting = null
      await ask().catch(complain)
    }
    busy = false
  }
  return {
    send(ask: Ask): void {
      waiting = ask
      if (!busy) void run()
    },
  }
}
