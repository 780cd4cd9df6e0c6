# frozen_string_literal: true

# Which examples run which lines of the rooms: loaded before anything else of a run of the specs, it writes them as
# JSON to where LINE_MAP points, {"core/plan/cut.rb" => {"12" => ["./spec/core/plan/cut_spec.rb[1:2]", ...]}}. The
# examples of a line stand in order: those that run least besides come first.
require "coverage"
require "json"

ROOMS_OF_CODE = %w[core records deeds web drawings sheets outside].freeze
MOST_EXAMPLES = 60

# Coverage counts every file that is loaded after it: the larger gems need not be among them.
%w[bundler/setup sequel sinatra/base prawn nokogiri dry-validation].each { |name| require name }
Coverage.start(lines: true)

RSpec.configure do |config|
  home = "#{Dir.pwd}/"
  ran = Hash.new { |files, file| files[file] = Hash.new { |lines, line| lines[line] = [] } }
  breadth = {}

  config.prepend_before { Coverage.result(stop: false, clear: true) }
  config.append_after do |example|
    counted = Coverage.result(stop: false, clear: true)
    # What fails as it is notices nothing.
    next if example.exception

    run = counted.filter_map do |path, counts|
      file = path.delete_prefix(home)
      next unless file.start_with?(*ROOMS_OF_CODE)

      lines = counts[:lines].each_index.select { |index| counts[:lines][index].to_i.positive? }
      [file, lines.map { |index| index + 1 }] unless lines.empty?
    end
    breadth[example.id] = run.sum { |_, lines| lines.size }
    run.each { |file, lines| lines.each { |line| ran[file][line] << example.id } }
  end

  config.after(:suite) do
    near = ->(ids) { ids.sort_by { |id| breadth[id] }.first(MOST_EXAMPLES) }
    map = ran.transform_values { |lines| lines.transform_values(&near) }
    File.write(ENV.fetch("LINE_MAP"), JSON.generate(map))
  end
end
