/** A page with nothing on it: what the house itself costs, for measuring the others against. */
export default function Bare() {
  return <p>Wuzzen</p>;
}
