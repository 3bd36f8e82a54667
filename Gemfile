source "https://rubygems.org"

# The server
gem "sinatra", "~> 4.1"
gem "puma", "~> 8.0"
gem "rack", "~> 3.0"
gem "rack-session", "~> 2.0"
gem "rodauth", "~> 2.30"
gem "bcrypt", "~> 3.1"
gem "zxcvbn", "~> 1.0", require: false
gem "committee", "~> 5.5"
gem "zeitwerk", "~> 2.6.18"
gem "bootsnap", "~> 1.18", require: false
gem "semantic_logger", "~> 4.16"

# Records
gem "sequel", "~> 5.80"
gem "trilogy", "~> 2.8"

# Mail, both ways
gem "mail", "~> 2.8"
gem "net-smtp", "~> 0.5"
gem "midi-smtp-server", "~> 3.3"
gem "sisimai", "~> 5.0"
gem "addressable", "~> 2.8"
gem "loofah", "~> 2.22"
gem "premailer", "~> 1.27"

# Letters: pictures, words from elsewhere, versions side by side
gem "ruby-vips", "~> 2.2"
gem "nokogiri", "~> 1.18"
gem "commonmarker", "~> 0.23.11" # from 1.0 on it asks for newer RubyGems than Debian 12 has
gem "diff-lcs", "~> 1.6"

# Files in and out
gem "marcel", "~> 1.2"
gem "csv", "~> 3.3"
gem "rchardet", "~> 1.8"
gem "roo", "~> 2.10.1"
gem "rubyzip", "~> 2.3", require: "zip"
gem "xlsxtream", "~> 3.0"

# Calendars
gem "tzinfo", "~> 2.0"
gem "tzinfo-data"
gem "holidays", "~> 8.7"

group :test do
  gem "rspec", "~> 3.13"
  gem "rack-test", "~> 2.1"
  gem "capybara", "~> 3.40"
  gem "selenium-webdriver", "~> 4.32.0"
  gem "axe-core-rspec", "~> 4.10"
  gem "prop_check", "~> 1.0"
  gem "simplecov", "~> 0.22", require: false
end

group :lint do
  gem "standard", "~> 1.39", require: false
  gem "brakeman", "~> 7.0", require: false
  gem "bundler-audit", "~> 0.9", require: false
end
