import { words } from '../i18n/language.ts';
import type { Picture, TakenBack } from '@fennip/contract';
import { addressOf } from '@fennip/contract';
import { say } from '../i18n/say.ts';
import { AnswerError, sentenceOf } from './http.ts';

/** Sends a file as it is and tells how far it has come. `fetch` cannot tell that. */
function upload<T>(address: string, file: File, progress: (share: number) => void): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', address);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.setRequestHeader('accept-language', words.language);
    request.upload.onprogress = (event) => progress(event.total > 0 ? event.loaded / event.total : 0);
    request.onerror = () => reject(new AnswerError(0, say('notice.brokenTransfer')));
    request.onload = () => {
      if (request.status < 300) resolve(JSON.parse(request.responseText) as T);
      else reject(new AnswerError(request.status, sentenceOf(request.responseText)));
    };
    request.send(file);
  });
}

/** Brings a picture into a job. */
export const uploadPicture = (
  jobId: string,
  place: number,
  file: File,
  progress: (share: number) => void,
): Promise<Picture> =>
  upload(addressOf('addPicture', { job: jobId }, { name: file.name, place: String(place) }), file, progress);

/** Brings a picture back that was changed in another program. */
export const bringBack = (
  pictureId: string,
  file: File,
  progress: (share: number) => void,
): Promise<TakenBack> => upload(addressOf('bringBack', { picture: pictureId }), file, progress);
