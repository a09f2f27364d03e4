/** What a picker of films, sounds and pictures offers, by kind and, for systems that go by endings, by those. */
export const ACCEPTED = 'video/*,audio/*,image/*,.mp4,.mov,.webm,.mkv,.mp3,.m4a,.wav,.ogg,.flac,.gif,.png,.webp';
