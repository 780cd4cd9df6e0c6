# frozen_string_literal: true

# The source is whatever this machine's RubyGems is set up to use; exact versions
# of everything, dependencies included, stand in gems.lock (see bin/ground.sh).
source Gem.sources.first.uri.to_s

gem "dry-schema", "~> 1.13.0" # later ones do not load on Ruby 3.1.2
gem "dry-validation", "~> 1.10.0"
gem "erubi", "~> 1.13"
gem "puma", "~> 8.0"
gem "que", "~> 2.4"
gem "rack", "~> 3.1"
gem "rack-session", "~> 2.1"
gem "rackup", "~> 2.2"
gem "pg", "~> 1.7"
gem "sequel", "~> 5.110"
gem "sequel_pg", "~> 1.17"
gem "sinatra", "~> 4.2"
gem "zeitwerk", "~> 2.6.0"

# people
gem "bcrypt", "~> 3.1"
gem "rack-attack", "~> 6.8"
gem "rodauth", "~> 2.49"
gem "rotp", "~> 6.3"
gem "webauthn", "~> 3.4"
gem "bigdecimal", "3.1.1" # those that Ruby 3.1 brings; later ones would be compiled
gem "racc", "1.6.0"
gem "openssl", "3.0.1" # the one that Ruby 3.1 brings; a later one would be compiled
gem "tzinfo", "~> 2.0"
gem "tzinfo-data", "~> 1.2026"

# pictures and files
gem "nokogiri", "~> 1.18.0"
gem "ruby-vips", "~> 2.2"
gem "shrine", "~> 3.6"

gem "aws-sdk-s3", "~> 1.150", require: false # photos in a store that speaks S3, where one is named

# letters
gem "date", "3.2.2" # the one that Ruby 3.1 brings; a later one would be compiled
gem "mail", "~> 2.8"

# printed sheets
gem "matrix", "~> 0.4"
gem "prawn", "~> 2.5"
gem "prawn-svg", "~> 0.36"
gem "rqrcode", "~> 3.0"

group :test do
  gem "capybara", "~> 3.40"
  gem "cuprite", "~> 0.17"
  gem "pdf-reader", "~> 2.14"
  gem "prop_check", "~> 1.0"
  gem "rack-test", "~> 2.2"
  gem "rspec", "~> 3.13"
  gem "json", "2.6.1" # the one that Ruby 3.1 brings
  gem "rubocop", "~> 1.60.0"
  gem "rubocop-ast", "~> 1.36.0" # later ones bring a parser that would be compiled
end

# the best division of wood and hours
gem "highs", "~> 0.2.6"
gem "fiddle", "1.1.0" # the one that Ruby 3.1 brings; a later one would be compiled

gem "icalendar", "~> 2.12"
gem "json_schemer", "~> 2.3"
gem "rubyzip", "~> 2.4"
