import { ApiFault, faultOf, type Photo } from "./client";

/** Send one file to the Shelf; `onShare` is told 0…1 while it goes. (fetch cannot report this, so XMLHttpRequest.) */
export function uploadPhoto(file: File, onShare: (share: number) => void): Promise<Photo> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", "/api/v1/photos");
    request.responseType = "json";
    request.upload.onprogress = (event) => onShare(event.total ? event.loaded / event.total : 0);
    request.onload = () => (request.status < 300 ? resolve(request.response as Photo) : reject(faultOf(request.response)));
    request.onerror = () => reject(new ApiFault("connection", "The connection was lost while sending. Put the file on the Shelf again."));
    const form = new FormData();
    form.append("file", file);
    request.send(form);
  });
}
