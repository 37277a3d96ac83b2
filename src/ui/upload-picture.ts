import { z } from 'zod';

const answerSchema = z.union([
  z.object({ id: z.string(), width: z.number(), height: z.number() }),
  z.object({ message: z.string() }),
]);

/** Sends a picture's file to be kept, with progress (0 to 1). Gives the picture, or what to tell the person. */
export function uploadPicture(file: File, onProgress: (share: number) => void): Promise<z.infer<typeof answerSchema>> {
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
