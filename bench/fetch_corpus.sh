#!/bin/sh
# Fetches pages that others wrote, from the package registries, for development. They are never committed.
set -eu
folder=${1:?name a folder}
mkdir -p "$folder/packages"
cd "$folder/packages"
for package in sqlite3-doc apache2-doc debian-reference-en libjs-jquery-ui-docs; do
    [ -d "$package" ] && continue
    apt-get download -qq "$package"
    dpkg -x "$package"_*.deb "$package"
    rm "$package"_*.deb
done
for package in startbootstrap-freelancer startbootstrap-agency startbootstrap-sb-admin \
    startbootstrap-clean-blog startbootstrap-creative startbootstrap-modern-business startbootstrap-new-age \
    startbootstrap-sb-admin-2 admin-lte@3.2.0 gentelella@4.2.0 jquery-mobile impress.js \
    bootstrap bootstrap@4.6.2 bootstrap@3.4.1 bulma foundation-sites uikit purecss milligram tachyons spectre.css \
    semantic-ui-css materialize-css picnic water.css mini.css chota halfmoon; do
    [ -d "$package" ] && continue
    archive=$(npm pack --silent "$package")
    mkdir "$package"
    tar -xzf "$archive" -C "$package"
    rm "$archive"
done
