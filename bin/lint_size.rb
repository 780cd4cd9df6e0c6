# frozen_string_literal: true

# Holds every method to an ABC size of 25 by RuboCop's count, but for those listed in config/large_methods.txt: none
# may join that list, grow on it, or stay on it once it is small enough. "bin/lint size" writes the list anew, and
# only ever shorter.

require "json"
require "open3"

MOST = 25
LIST = "config/large_methods.txt"
CONFIG = "config/rubocop_size.yml"

output, status = Open3.capture2("bundle", "exec", "rubocop", "--config", CONFIG, "--only", "Metrics/AbcSize",
                                "--format", "json")
abort "RuboCop did not run" if status.exitstatus > 1
found = JSON.parse(output)["files"].flat_map do |file|
  file["offenses"].map do |offense|
    name, size = offense["message"].match(/for `?(\S+?)`? is too high\. \[<.*> ([\d.]+)\//).captures
    [["#{file["path"].delete_prefix("#{Dir.pwd}/")} #{name}", offense["location"]["line"]], size.to_f]
  end
end
# Methods of one name in one file are told apart by their order.
found = found.sort_by(&:first).group_by { |(name, _), _| name }.flat_map do |name, all|
  all.each_with_index.map { |(_, size), i| ["#{name}#{" #{i + 1}" if i.positive?}", size] }
end.to_h
known = File.readlines(LIST, chomp: true).to_h do |line|
  line.rpartition(" ").then { |name, _, size| [name, size.to_f] }
end

grown = found.select { |name, size| size > known.fetch(name, MOST) }
if ARGV.first == "size" && grown.empty?
  File.write(LIST, found.sort.map { |name, size| "#{name} #{size}\n" }.join)
  puts "#{found.size} methods are larger than #{MOST}"
elsif grown.any?
  abort grown.map { |name, size| "#{name} is #{size}, and may be #{known.fetch(name, MOST)}" }.join("\n")
elsif found != known
  abort "#{LIST} is longer than it needs to be: bin/lint size"
end
