declare module 'baboon-image' {
  const image: { get(x: number, y: number, c: number): number; shape: [number, number, number] };
  export default image;
}
