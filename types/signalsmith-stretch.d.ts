/** Read for what it registers where it finds itself in an AudioWorklet; what it exports is not used. */
declare module 'signalsmith-stretch';
