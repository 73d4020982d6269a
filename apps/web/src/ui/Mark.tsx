/** The mark: three bars passing something on. */
export function Mark() {
  return (
    <svg width="28" height="18" viewBox="0 0 28 18" aria-hidden="true">
      <rect x="1" y="1" width="13" height="4" rx="2" fill="#6ba39c" />
      <rect x="6" y="7" width="12" height="4" rx="2" fill="#ffffff" />
      <rect x="13" y="13" width="13" height="4" rx="2" fill="#d97b3f" />
    </svg>
  );
}
