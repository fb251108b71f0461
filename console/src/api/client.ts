import createClient, { type Middleware } from 'openapi-fetch'
import { heedClock } from './clock'
import type { components, paths } from './openapi'

type Schemas = components['schemas']
export type OrderView = Schemas['OrderView']
export type OrderCard = Schemas['OrderCard']
export type BoardView = Schemas['BoardView']
export type JournalLine = Schemas['JournalLine']
export type Late = Schemas['Late']
export type PartsOwed = Schemas['PartsOwed']
export type NoticeLine = Schemas['NoticeLine']
export type ParkRequest = Schemas['ParkRequest']
export type ConfirmRequest = Schemas['ConfirmRequest']
export type FindRequest = Schemas['FindRequest']
export type WaiveRequest = Schemas['WaiveRequest']
export type StepClosed = Schemas['StepClosed']
export type OrderAct = Schemas['OrderAct']
export type PositionView = Schemas['PositionView']
export type RunStep = Schemas['RunStep']
export type StepView = Schemas['StepView']
export type Finding = Schemas['Finding']
export type CheckResult = Schemas['CheckResult']
export type PlanView = Schemas['PlanView']
export type ReadingView = Schemas['ReadingView']
export type SlotChange = Schemas['SlotChange']
export type PlanPreview = Schemas['PlanPreview']
export type FitNote = Schemas['FitNote']
export type Quote = Schemas['Quote']
export type InvoiceView = Schemas['InvoiceView']
export type PaymentWay = Schemas['PaymentWay']
export type MemoryModule = Schemas['MemoryModule']
export type DriveWish = NonNullable<Schemas['DriveWish']>
export type Drive = NonNullable<Schemas['Drive']>
export type PartLine = Schemas['PartLine']
export type PartKind = Schemas['PartKind']
export type BagLabel = Schemas['BagLabel']
export type MovePartRequest = Schemas['MovePartRequest']
export type DummyActRequest = Schemas['DummyActRequest']
export type LeavingView = Schemas['LeavingView']
export type OptionLine = Schemas['OptionLine']
export type DriveOptionLine = Schemas['DriveOptionLine']
export type LaterStage = NonNullable<Schemas['LaterStage']>
export type FastenerShape = Schemas['FastenerShape']
export type FastenerGroup = Schemas['FastenerGroup']
export type Stage = Schemas['Stage']
export type Verdict = NonNullable<Schemas['Verdict']>
export type Receipt = Schemas['Receipt']
export type Offer = Schemas['OfferView']
export type Report = Schemas['Report']
export type Proof = Schemas['ProofView']
export type Change = Schemas['Change']
export type ShopChange = Schemas['ShopChange']
export type FindKind = Schemas['FindKind']
export type Guide = Schemas['Guide']
export type Removal = Schemas['Removal']
export type MemorySlot = Schemas['MemorySlot']
export type DriveBay = Schemas['DriveBay']
export type BoardPoint = NonNullable<Schemas['BoardPoint']>
export type GuideProblem = Schemas['GuideProblem']
export type GuideChange = Schemas['GuideChange']
export type Phase = Schemas['Phase']
export type Gate = Schemas['Gate']
export type Hold = Schemas['Hold']
export type StartShown = NonNullable<Schemas['StartShown']>
export type BundleFile = Schemas['BundleFile']
export type WatchedView = Schemas['WatchedView']
export type NotedVisit = NonNullable<Schemas['NotedVisit']>
export type ArrivalView = Schemas['ArrivalView']
export type ModelMatch = Schemas['ModelMatch']
export type ExchangeFile = Schemas['ExchangeFile']
export type MergeFact = Schemas['MergeFact']
export type BatchView = Schemas['BatchView']
export type BatchCard = Schemas['BatchCard']
export type BatchStage = Schemas['BatchStage']
export type BatchMachineView = Schemas['BatchMachineView']
export type BatchMachine = Schemas['BatchMachine']
export type BatchStepView = Schemas['BatchStepView']
export type BatchListLine = Schemas['BatchListLine']
export type BatchReceipt = Schemas['BatchReceipt']
export type Person = NonNullable<Schemas['Person']>
export type Role = Person['role']
export type SessionLine = Schemas['SessionLine']
export type SessionView = Schemas['SessionView']
export type OwnProofs = NonNullable<Schemas['OwnProofs']>
export type TabletSeat = NonNullable<Schemas['TabletSeat']>
export type TabletMade = Schemas['TabletMade']
export type PersonInvite = Schemas['PersonInvite']
export type HereView = Schemas['HereView']
export type StoreView = Schemas['StoreView']
export type BackupMade = Schemas['BackupMade']
export type VerifyView = Schemas['VerifyView']
export type Webhook = Schemas['Webhook']
export type WebhookMade = Schemas['WebhookMade']
export type HandsRequest = Schemas['HandsRequest']
export type BadgeMade = Schemas['BadgeMade']

type Filled<P> = P extends `${infer A}{${string}}${infer B}` ? `${A}${string}${Filled<B>}` : P
type BodyOf<O> = O extends { requestBody: { content: { 'application/json': infer B } } } ? B : null

type ChangeBelow<Root extends string> = {
  [P in keyof paths]: P extends `${Root}/${infer Rest}`
    ? paths[P] extends { post: infer O }
      ? { path: Filled<Rest>; body: BodyOf<O> }
      : never
    : never
}[keyof paths]

/** One change of an order: its path below the order, and the body that the API takes there. */
export type OrderChange = ChangeBelow<'/api/v1/orders/{number}'>

/** The same of a batch. */
export type BatchChange = ChangeBelow<'/api/v1/batches/{batch}'>

/** Sizes travel as they were typed: the service reads them, and says so when it cannot. */
export const typedSize = (text: string) => text.trim() as unknown as number

export type RefusalAnswer = 'explanation' | 'waiver'

/** The service refused, and says why and what to do. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    /** What may be said to it, where doing as it asks is not the only way. */
    readonly answers: RefusalAnswer[] = [],
    /** After how many seconds it may be asked again; null where that was not said. */
    readonly retryAfter: number | null = null,
  ) {
    super(detail)
  }
}

let sitting: string | null = null
let signedOut = () => {}

/** Who is signed in here, by id; null for nobody. */
export const whoSits = () => sitting
export const seat = (person: string | null) => {
  sitting = person
}

/** @param tell Called where an answer shows that nobody is signed in any more. */
export const onSignedOut = (tell: () => void) => {
  signedOut = tell
}

type Body = { code?: string; detail?: string; title?: string; answers?: RefusalAnswer[] }

async function heed(response: Response): Promise<Response> {
  heedClock(response.headers.get('Date'))
  if (response.ok) return response
  const body = (await response.json().catch(() => ({}))) as Body
  if (body.code === notSignedIn) signedOut()
  throw new Problem(
    response.status,
    body.code ?? '',
    body.detail ?? body.title ?? `The service answered ${response.status}.`,
    body.answers,
    // Seconds, as the service writes them (RFC 9110, 10.2.3); no number is no wish.
    Number(response.headers.get('Retry-After')) || null,
  )
}

const answers: Middleware = { onResponse: ({ response }) => heed(response) }

/** A UUID made at random (RFC 9562, version 4); a page that came over plain http is given no other way. */
export function newId() {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  bytes[6] = (bytes[6]! & 0x0f) | 0x40
  bytes[8] = (bytes[8]! & 0x3f) | 0x80
  const hex = Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('')
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-')
}

/**
 * One change whose path is not known beforehand, or whose body is no JSON.
 * @param patience After so many milliseconds without an answer it is lost; without it the browser decides.
 */
export async function send(
  method: string,
  path: string,
  body: unknown,
  key: string = newId(),
  type = 'application/json',
  more: Record<string, string> = {},
  patience?: number,
): Promise<Response> {
  const raw = body instanceof Blob || typeof body === 'string'
  return heed(
    await fetch(`/api/v1/${path}`, {
      method,
      headers: {
        'Content-Type': type,
        'Idempotency-Key': key,
        ...more,
      },
      signal: patience === undefined ? null : AbortSignal.timeout(patience),
      body: raw ? body : body === null ? null : JSON.stringify(body),
    }),
  )
}

export const api = createClient<paths>({ baseUrl: location.origin })
api.use(answers)

const notSignedIn = 'not-signed-in'

/** Nobody is signed in (any more), as against an answer that says no. */
export const isSignedOut = (error: unknown) => error instanceof Problem && error.code === notSignedIn

/** A lost connection, as against an answer that says no. */
export const isLost = (error: unknown) =>
  error instanceof TypeError || (error instanceof DOMException && error.name === 'TimeoutError')

/** A key for one change, to be kept for its retries. */
export const newKey = () => ({ 'Idempotency-Key': newId() })
