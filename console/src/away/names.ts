/** Where the service worker keeps pictures. */
export const pictureCache = 'revtal-pictures'
