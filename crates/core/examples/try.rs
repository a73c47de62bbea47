use owl_core::marking::*;
fn main(){
 for a in std::env::args().skip(1) {
  let (m, t) = match a.rsplit_once('|') { Some((t,m)) => (m.parse().ok(), t.to_owned()), None => (None, a.clone()) };
  println!("== {a}");
  match read_text(&t, Hints{measured_si:m, ..Hints::default()}) {
   Ok(v) => for m in v { println!("  {:.3} {:<10} {} {} {} {:?} {:?} {:?} | {} | {} | {:?}", m.likelihood, m.part.to_string(), m.value, m.tolerance.map(|t|t.to_string()).unwrap_or_default(), m.rating.map(|r|r.to_string()).unwrap_or_default(), m.power.map(|p|p.to_string()), m.temperature, m.safety, m.code, m.because.join("; "), m.notes);
      for s in &m.sections { println!("      {:?} {} {:?}", s.sign, s.capacitance, s.rating.map(|r|r.to_string())); } },
   Err(e) => println!("  {e}"),
  }
 }
}
