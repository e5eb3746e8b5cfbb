// The way to the engine. Types come from the description it gives of itself.

import createClient from 'openapi-fetch';
import { insist } from './insist';
import { Problem, type ProblemBody } from './problem';
import type { components, paths } from './schema';

type Schemas = components['schemas'];
export type ArchivePreview = Schemas['ArchivePreview'];
export type Backups = Schemas['Backups'];
export type Network = Schemas['NetworkState'];
export type Paint = Schemas['Paint'];
export type PaintPage = Schemas['PaintPage'];
export type TestWorth = Schemas['TestWorth'];
export type ReadingEntry = Schemas['ReadingEntry'];
export type ReadingKept = Schemas['ReadingKept'];
export type ReadingMade = Schemas['ReadingMade'];
export type ReadOut = Schemas['ReadOut'];
export type ToRead = Schemas['ToRead'];
export type ImportPlan = Schemas['ImportPlan'];
export type Measured = Schemas['MeasuredEntry'];
export type PaintEntry = Schemas['PaintEntry'];
export type Mix = Schemas['Mix'];
export type MixEntry = Schemas['MixEntry'];
export type Prediction = Schemas['Prediction'];
export type PredictedPart = Schemas['PredictedPart'];
export type Wanted = Schemas['Wanted'];
export type FoundRecipe = Schemas['FoundRecipe'];
export type RecipePart = Schemas['RecipePart'];
export type MixPart = Schemas['MixPart'];
export type LadderRung = Schemas['LadderRung'];
export type PotFix = Schemas['PotFix'];
export type PourView = Schemas['PourView'];
export type PotLabel = Schemas['PotLabel'];
export type ScaleNow = Schemas['ScaleNow'];
export type Blend = Schemas['Blend'];
export type Board = Schemas['Board'];
export type BoardInList = Schemas['BoardInList'];
export type BoardKept = Schemas['BoardKept'];
export type BoardReadingEntry = Schemas['BoardReadingEntry'];
export type BoardReadingKept = Schemas['BoardReadingKept'];
export type BoardReadingMade = Schemas['BoardReadingMade'];
export type Layer = Schemas['Layer'];
export type LayerPredicted = Schemas['LayerPredicted'];
export type RemedyView = Schemas['RemedyView'];
export type Strip = Schemas['Strip'];
export type StripPrediction = Schemas['StripPrediction'];
export type AdviceGiven = Schemas['AdviceGiven'];
export type FixOffered = Schemas['FixOffered'];
export type TechniqueChoice = Schemas['TechniqueChoice'];
export type PieceKept = Schemas['PieceKept'];
export type QuoteAsked = Schemas['QuoteAsked'];
export type QuoteCompared = Schemas['QuoteCompared'];
export type JarView = Schemas['JarView'];
export type JarNear = Schemas['JarNear'];
export type StencilTemplate = Schemas['StencilTemplate'];
export type QuoteView = Schemas['QuoteView'];
export type TouchUp = Schemas['TouchUp'];
export type Terms = Schemas['TermsEntry'];
export type WorkshopEntry = Schemas['WorkshopEntry'];
export type PiecePhoto = Schemas['PiecePhoto'];
export type MarkedFace = Schemas['MarkedFace'];
export type PartPlaced = Schemas['PartPlaced'];
export type PieceOnPhoto = Schemas['PieceOnPhoto'];
export type Piece = Schemas['Piece'];
export type PiecePrediction = Schemas['PiecePrediction'];
export type PieceChoices = Schemas['PieceChoices'];
export type Finish = Schemas['Finish'];
export type Ground = Schemas['Ground'];
export type GroundKind = Schemas['GroundKind'];
export type Measure = Schemas['Measure'];
export type Stencil = Schemas['Stencil'];
export type Source = Schemas['Source'];
export type PartsMethod = Schemas['PartsMethod'];
export type Defect = Schemas['Defect'];
export type Form = Schemas['Form'];
export type ClockSet = Schemas['ClockSet'];
export type RunSheetEntry = Schemas['RunSheetEntry'];
export type RunSheetView = Schemas['RunSheetView'];
export type BrushKindView = Schemas['BrushKindView'];
export type BrushCounted = Schemas['BrushCounted'];
export type UnwashedView = Schemas['UnwashedView'];
export type SpotMended = Schemas['SpotMended'];
export type WashedEntry = Schemas['WashedEntry'];
export type Outlined = Schemas['Outlined'];
export type ReadyFinish = Schemas['ReadyFinish'];
export type PatternRoom = Schemas['PatternRoom'];
export type OutlineAsked = Schemas['OutlineAsked'];
export type StepDone = Schemas['StepDone'];
export type StepView = Schemas['StepView'];
export type LogEntryView = Schemas['LogEntryView'];
export type FinishOnPhoto = Schemas['FinishOnPhoto'];
export type FinishRequest = Schemas['FinishRequest'];
export type LogGroup = Schemas['LogGroup'];
export type LogNoteEntry = Schemas['LogNoteEntry'];
export type MadeAgain = Schemas['MadeAgain'];
export type PhotoPalette = Schemas['PhotoPalette'];
export type SkillLearned = Schemas['SkillLearned'];
export type TruthView = Schemas['TruthView'];
export type Scheme = Schemas['Scheme'];
export type ZoneFinish = Schemas['ZoneFinish'];
export type ZoneView = Schemas['ZoneView'];
export type UnifyWay = Schemas['UnifyWay'];
export type UnifyStep = Schemas['UnifyStep'];
export type BlendPath = Schemas['BlendPath'];
export type Swatch = Schemas['Swatch'];
export type Drawn = Schemas['Wedge'];
export type Colour = Schemas['Colour'];
export type LightChoice = Schemas['LightChoice'];
export type LightName = Schemas['Light'];
export type StateName = Schemas['FilmState'];
export type Class = Schemas['Class'];
export type ClassChoice = Schemas['ClassChoice'];
export type AnswerChecked = Schemas['AnswerChecked'];
export type Pane = Schemas['Pane'];
export type PracticeView = Schemas['PracticeView'];
export type Question = Schemas['Question'];
export type Guess = Schemas['Guess'];
export type EyeSkill = Schemas['EyeSkill'];
export type SkillView = Schemas['SkillView'];
export type FirstStep = Schemas['FirstStep'];
export type TermId = Schemas['Term'];
export type TermView = Schemas['TermView'];
export type HistoryNow = Schemas['HistoryNow'];

export { Problem, type ProblemBody };

let units = 'metric';

/** The units in which the engine explains what it refuses. */
export function explainIn(painters: string) {
  units = painters;
}

let leaving = false;

/** What is sent from now on is carried on by the browser when the page is gone (64 kB at most: a document has some). */
export function leave() {
  leaving = true;
}

/** The page is there again, or stays after all. */
export function stay() {
  leaving = false;
}

const SHUT_OUT = 'warm-blend-shut-out';

/** Calls back when this machine is no longer let in; returns what ends that. */
export function onShutOut(act: () => void) {
  window.addEventListener(SHUT_OUT, act);
  return () => window.removeEventListener(SHUT_OUT, act);
}

const send = async (request: Request) => {
  request.headers.set('warm-blend-units', units);
  const answer = await fetch(request, { keepalive: leaving });
  // Who asks who they are learns it by that.
  if (answer.status === 401 && !request.url.endsWith('/api/network/me'))
    window.dispatchEvent(new Event(SHUT_OUT));
  return answer;
};

const baseUrl = window.location.origin;

/** Questions: nothing is kept of them. */
export const api = createClient<paths>({ baseUrl, fetch: send });

/** Changes of what is kept: each is made once, however often its answer is lost. */
export const changing = createClient<paths>({ baseUrl, fetch: (change) => insist(change, send) });

/** The data of an answer, or its problem thrown. */
export async function got<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await answer;
  if (response.ok) return data as T;
  if (error && typeof error === 'object' && 'detail' in error) throw new Problem(error as ProblemBody);
  throw new Error(`Warm Blend returned an error (${response.status})`);
}
