//! The front end, the catalogue and the demo are compiled in; a change of theirs must rebuild the binary.

fn main() {
    for folder in ["../../web/dist", "../../catalogue", "../../demo"] {
        println!("cargo:rerun-if-changed={folder}");
    }
}
