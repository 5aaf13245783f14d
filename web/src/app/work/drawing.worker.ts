import type { DrawingRead } from '@mule-tally/core/drawing';
import { likelyLayers, readDxf, roomsInDrawing, unitOfDrawing } from '@mule-tally/core/drawing';
import type { DrawingAnswer, DrawingAsked } from './drawings';

/** The drawing that was read last: rooms are looked for in it. */
let drawing: DrawingRead | undefined;

function answerTo(asked: DrawingAsked): DrawingAnswer {
  if (asked.kind === 'rooms')
    return drawing
      ? { kind: 'rooms', offered: roomsInDrawing(drawing, asked.rooms) }
      : { kind: 'refused', code: 'dxf.empty', message: 'No drawing has been read.' };
  const read = readDxf(asked.text);
  drawing = read.ok ? read.drawing : undefined;
  if (!read.ok) return { kind: 'refused', code: read.code, message: read.message };
  const { unit, layers, notUnderstood } = read.drawing;
  const likely = likelyLayers(read.drawing);
  return {
    kind: 'read',
    look: {
      ...(unit && { unit }),
      likelyUnit: unitOfDrawing(read.drawing, likely),
      likelyLayers: likely,
      layers: layers.map(({ name, closed, lines }) => ({
        name,
        closed: closed.length,
        lines: lines.length,
      })),
      notUnderstood,
    },
  };
}

addEventListener('message', ({ data }: MessageEvent<{ ask: number; asked: DrawingAsked }>) => {
  postMessage({ ask: data.ask, answer: answerTo(data.asked) });
});
