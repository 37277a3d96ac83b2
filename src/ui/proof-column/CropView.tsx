import type { CSSProperties } from 'react';
import type { CropWindow } from '@/core/pictures/crop';
import type { PictureUse } from '@/core/record/record';
import type { ShownValue } from '@/core/listing/shown';
import classes from './CropView.module.css';

interface CropViewProps {
  /** The picture as it will be sent, with its crop window; `null` where there is none. */
  value: Extract<ShownValue, { kind: 'picture' }> | null;
  /** The record's pictures, one of which the window lies in. */
  pictures: readonly PictureUse[];
  /** The channel's shape. */
  ratio: readonly [number, number];
}

/** A picture as the channel will crop it. */
export function CropView({ value, pictures, ratio }: CropViewProps) {
  const whole = pictures.find((picture) => picture.pictureId === value?.source?.pictureId);
  if (value?.source == null || !whole)
    return (
      <div className={classes.none} style={{ '--crop-ratio': `${ratio[0]} / ${ratio[1]}` } as CSSProperties}>
        no picture
      </div>
    );
  return (
    <CropFrame
      picture={whole}
      window={value.source.crop}
      ratio={ratio}
      label={value.alt || 'picture without description'}
    />
  );
}

interface CropFrameProps {
  picture: PictureUse;
  /** Window in the picture's own pixels. */
  window: CropWindow;
  ratio: readonly [number, number];
  /** What it shows, for those who cannot see it. */
  label: string;
}

/**
 * A window of a picture. An SVG view box takes it in the source's own pixels: no second reckoning that could differ.
 */
export function CropFrame({ picture, window: crop, ratio, label }: CropFrameProps) {
  return (
    <svg
      className={classes.frame}
      style={{ '--crop-ratio': `${ratio[0]} / ${ratio[1]}` } as CSSProperties}
      viewBox={`${crop.x} ${crop.y} ${crop.w} ${crop.h}`}
      role="img"
      aria-label={label}
    >
      <image
        href={`/api/pictures/${picture.pictureId}?width=900`}
        width={picture.width}
        height={picture.height}
        preserveAspectRatio="none"
      />
    </svg>
  );
}
