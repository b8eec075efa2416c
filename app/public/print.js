// The one thing that a page to be printed does by itself.
document.getElementById('print').addEventListener('click', () => window.print());
