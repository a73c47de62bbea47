//! Makes sure that the folder of the front end exists, so that the server can be built and tested
//! before the front end is.

fn main() {
    let dist = std::path::Path::new("../../web/dist");
    if let Err(e) = std::fs::create_dir_all(dist) {
        println!("cargo::error=cannot make {}: {e}", dist.display());
    }
    println!("cargo::rerun-if-changed=migrations");
    println!("cargo::rerun-if-changed=../../web/dist");
}
