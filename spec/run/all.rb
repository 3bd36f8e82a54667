# frozen_string_literal: true

# Everything `bin/test` looks at, when it is not told what: style and types, parts of the screens, security, and every spec.

require_relative "lanes"

def step(words, *command, **options)
  puts "\n== #{words}"
  $stdout.flush
  system(*command, **options) || abort("#{words}: red")
end

strange = ARGV - ["--keep-times"]
abort "bin/test [--failed | --keep-times | PATH …]" if strange.any?

green =
  SpecRun::Lanes.new(ENV.fetch("NIMBLE_VAR"), keep_times: ARGV.any?).run do
    step "Style and types", "bin/style"
    step "Units of the screens", "npx", "vitest", "run", "--reporter=dot", chdir: "ui"
    step "Security", *%w[bundle exec brakeman --force --quiet --no-summary --no-pager --path . --only-files lib/]
  end
exit green
