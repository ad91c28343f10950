// Cameras of this browser, for all pictures of this page: opened when a plan shows one, closed when none does
// any more.
import { reactive, ref } from 'vue'

const RETRY_MS = 3000
/** Any camera of this browser, where none is named. */
export const ANY = 'any'

export type CameraState = 'asking' | 'on' | 'refused' | 'missing'
export const cameras = reactive(new Map<string, CameraState>())
export const found = ref<{ id: string; label: string }[]>([])

const users = new Map<string, number>()
const films = new Map<string, HTMLVideoElement>()

export async function listCameras(): Promise<void> {
  const all = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? []
  found.value = all
    .filter((device) => device.kind === 'videoinput' && device.label)
    .map((device) => ({ id: device.label, label: device.label }))
}

/** One more picture shows that camera. */
export function useCamera(name: string): void {
  users.set(name, (users.get(name) ?? 0) + 1)
  if (users.get(name) === 1) void open(name)
}

export function dropCamera(name: string): void {
  const left = (users.get(name) ?? 1) - 1
  if (left > 0) {
    users.set(name, left)
    return
  }
  users.delete(name)
  close(name)
}

/** What it sees, once it sees anything. */
export function cameraPicture(name: string): HTMLVideoElement | null {
  const film = films.get(name)
  return film && film.readyState >= 2 ? film : null
}

function close(name: string): void {
  const stream = films.get(name)?.srcObject as MediaStream | null | undefined
  stream?.getTracks().forEach((track) => track.stop())
  films.delete(name)
  cameras.delete(name)
}

async function open(name: string): Promise<void> {
  if (!cameras.has(name)) cameras.set(name, 'asking')
  try {
    if (!navigator.mediaDevices) throw new DOMException('', 'NotFoundError')
    let stream = await navigator.mediaDevices.getUserMedia({
      video: { width: { ideal: 1280 }, height: { ideal: 720 } },
    })
    await listCameras() // Names are told only once one of them is open.
    const id =
      name === ANY
        ? undefined
        : (await navigator.mediaDevices.enumerateDevices()).find(
            (device) => device.kind === 'videoinput' && device.label === name,
          )?.deviceId
    if (name !== ANY && stream.getVideoTracks()[0]?.label !== name) {
      stream.getTracks().forEach((track) => track.stop())
      if (!id) throw new DOMException('', 'NotFoundError')
      stream = await navigator.mediaDevices.getUserMedia({
        video: { deviceId: { exact: id }, width: { ideal: 1280 }, height: { ideal: 720 } },
      })
    }
    if (!users.has(name)) {
      stream.getTracks().forEach((track) => track.stop())
      return
    }
    const film = document.createElement('video')
    film.muted = film.playsInline = true
    film.srcObject = stream
    await film.play()
    films.set(name, film)
    cameras.set(name, 'on')
    stream.getVideoTracks()[0]!.onended = () => {
      films.delete(name)
      cameras.set(name, 'missing')
      again(name)
    }
  } catch (error) {
    const refused = (error as DOMException).name === 'NotAllowedError'
    cameras.set(name, refused ? 'refused' : 'missing')
    // One that is not there is taken as soon as it is; one that was refused waits for the performer.
    if (!refused) again(name)
  }
}

function again(name: string): void {
  setTimeout(() => {
    if (users.has(name) && cameras.get(name) === 'missing') void open(name)
  }, RETRY_MS)
}

/** Ask once more for a camera that was refused. */
export function askAgain(name: string): void {
  if (users.has(name)) void open(name)
}
