export function MovieDialog() {
  return null;
}
