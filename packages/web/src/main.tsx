document.getElementById('root')!.textContent='Kanonos';
