import type { CSSProperties } from 'react';
import type { PictureUse } from '@/core/record';
import type { ShownValue } from '@/core/shown';
import classes from './CropView.module.css';

interface CropViewProps {
  /** The picture as it will be sent, with its crop window; `null` where there is none. */
  value: Extract<ShownValue, { kind: 'picture' }> | null;
  /** The whole picture that the window lies in. */
  whole: PictureUse | null;
  /** The channel's shape. */
  ratio: readonly [number, number];
}

/** A picture as the channel will crop it. */
export function CropView({ value, whole, ratio }: CropViewProps) {
  const shape = { '--crop-ratio': `${ratio[0]} / ${ratio[1]}` } as CSSProperties;
  if (value?.source == null || whole === null) return <div className={classes.none} style={shape}>no picture</div>;
  const { crop } = value.source;
  // An SVG view box takes the crop window itself, in the source's own pixels: no second reckoning that could differ.
  return (
    <svg className={classes.frame} style={shape} viewBox={`${crop.x} ${crop.y} ${crop.w} ${crop.h}`} role="img" aria-label={value.alt || 'picture without description'}>
      <image href={`/api/pictures/${whole.pictureId}?width=900`} width={whole.width} height={whole.height} preserveAspectRatio="none" />
    </svg>
  );
}
