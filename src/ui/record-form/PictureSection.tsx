import { TextInput } from '@mantine/core';
import { useRef, useState, type MouseEvent } from 'react';
import { z } from 'zod';
import type { PictureUse } from '@/core/record';
import { Section, type FieldError } from './form-parts';
import classes from './RecordForm.module.css';

interface PictureSectionProps {
  picture: PictureUse | null;
  onChange: (picture: PictureUse | null) => void;
  error: FieldError;
}

const answerSchema = z.union([z.object({ id: z.string(), width: z.number(), height: z.number() }), z.object({ message: z.string() })]);
const mostBytes = 20 * 1024 * 1024;

/** One picture with its focal point: every crop keeps that point. */
export function PictureSection({ picture, onChange, error }: PictureSectionProps) {
  const [progress, setProgress] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    if (file.size > mostBytes) return setProblem(`“${file.name}” is ${(file.size / 1_048_576).toFixed(1)} MB; at most 20 MB are taken. Make it smaller and add it again.`);
    setProgress(0);
    const answer = await upload(file, setProgress);
    setProgress(null);
    if ('message' in answer) setProblem(answer.message);
    else onChange({ pictureId: answer.id, width: answer.width, height: answer.height, alt: picture?.alt ?? '', credit: picture?.credit ?? '', focal: { x: 0.5, y: 0.5 } });
  };
  return (
    <Section id="picture" title="Picture">
      {picture === null ? (
        <label
          className={classes.drop} data-over={over || undefined}
          onDragOver={(e) => { e.preventDefault(); setOver(true); }} onDragLeave={() => setOver(false)}
          onDrop={(e) => { e.preventDefault(); setOver(false); void take(e.dataTransfer.files[0]); }}
        >
          {progress === null ? 'Drop a picture here, or choose a file (20 MB at most)' : `Taking it in: ${Math.round(progress * 100)} %`}
          <input type="file" accept="image/*" aria-label="Picture file" onChange={(e) => { void take(e.currentTarget.files?.[0]); e.currentTarget.value = ''; }} />
        </label>
      ) : <Chosen picture={picture} onChange={onChange} error={error} />}
      {problem === null ? null : <p className="problem" role="alert">{problem}</p>}
    </Section>
  );
}

function Chosen({ picture, onChange, error }: { picture: PictureUse; onChange: PictureSectionProps['onChange']; error: FieldError }) {
  const canvas = useRef<HTMLButtonElement>(null);
  const setFocal = (x: number, y: number) => onChange({ ...picture, focal: { x: clamp(x), y: clamp(y) } });
  const onClick = (event: MouseEvent) => {
    const box = canvas.current?.getBoundingClientRect();
    // A click by keyboard has no place of its own.
    if (box && event.detail > 0) setFocal((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  };
  const nudge = { ArrowLeft: [-0.02, 0], ArrowRight: [0.02, 0], ArrowUp: [0, -0.02], ArrowDown: [0, 0.02] } as const;
  return (
    <div className={classes.picture}>
      <button
        ref={canvas} type="button" className={classes.canvas} onClick={onClick} aria-label="Focal point: click, or move it with the arrow keys"
        onKeyDown={(event) => {
          const by = nudge[event.key as keyof typeof nudge];
          if (!by) return;
          event.preventDefault();
          setFocal(picture.focal.x + by[0], picture.focal.y + by[1]);
        }}
      >
        {/* eslint-disable-next-line @next/next/no-img-element -- drawn by our own route at the size shown */}
        <img src={`/api/pictures/${picture.pictureId}?width=900`} alt="" width={picture.width} height={picture.height} style={{ height: 'auto' }} />
        <span className={classes.focal} style={{ left: `${picture.focal.x * 100}%`, top: `${picture.focal.y * 100}%` }} />
      </button>
      <div>
        <TextInput label="Description, for those who cannot see it" value={picture.alt} error={error('pictures.0.alt')} onChange={(e) => onChange({ ...picture, alt: e.currentTarget.value })} />
        <TextInput mt={8} label="Credit" value={picture.credit} error={error('pictures.0.credit')} onChange={(e) => onChange({ ...picture, credit: e.currentTarget.value })} />
        <p className={classes.muted}>{picture.width} × {picture.height} px. The ring is what every crop keeps.</p>
        <button type="button" className="plainButton" onClick={() => onChange(null)}>Take the picture out</button>
      </div>
    </div>
  );
}

const clamp = (share: number) => Math.round(Math.min(Math.max(share, 0), 1) * 1000) / 1000;

/** Sends the file with progress (0 to 1). */
function upload(file: File, onProgress: (share: number) => void): Promise<z.infer<typeof answerSchema>> {
  return new Promise((resolve) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/pictures?name=${encodeURIComponent(file.name)}`);
    request.upload.onprogress = (event) => onProgress(event.loaded / Math.max(event.total, 1));
    request.onload = () => {
      const read = answerSchema.safeParse(parse(request.responseText));
      resolve(read.success ? read.data : { message: 'The picture was not taken in. Add it again.' });
    };
    request.onerror = () => resolve({ message: 'The connection broke off. Add the picture again.' });
    request.send(file);
  });
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
