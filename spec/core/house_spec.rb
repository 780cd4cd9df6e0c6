# frozen_string_literal: true

# What may touch what: web, deeds, records, core, in one direction.
RSpec.describe "The house" do
  root = File.expand_path("../..", __dir__)
  rooms = %w[core records deeds web drawings sheets outside]
  # Below each room, those it may not name.
  closed = { "core" => %w[Records Deeds Web Drawings Sheets Outside Sequel Sinatra],
             "drawings" => %w[Deeds Web Sheets Records::Graft Sequel], "records" => %w[Deeds Web Sheets Drawings
                   Sinatra],
             "deeds" => %w[Web Sheets Sinatra Rack], "outside" => %w[Web Deeds Sheets] }

  closed.each do |room, others|
    it "keeps #{room} from naming #{others.join(', ')}" do
      named = Dir[File.join(root, room, "**/*.rb")].flat_map do |path|
        File.readlines(path).reject { |line| line.strip.start_with?("#") }
          .flat_map do |line|
            others.select { |other| line.match?(/(?<![\w:"'])#{other}::|(?<![\w"'])Vestry::#{other}::/) }
              .map { |other| "#{path.delete_prefix("#{root}/")}: #{other}" }
          end
      end
      expect(named).to eq []
    end
  end

  it "asks the database nothing from pages, drawings and sheets" do
    asked = (rooms - %w[records deeds outside]).flat_map { |room| Dir[File.join(root, room, "**/*.{rb,erb}")] }
      .select do |path|
      File.read(path).match?(/(?<![\w:])DB\[|\bDB\.(run|fetch|from)\b/)
    end
    expect(asked.map { |path| path.delete_prefix("#{root}/") }).to eq []
  end

  it "says what each public method of the core takes and answers, or what it is" do
    bare = Dir[File.join(root, "core/**/*.rb")].flat_map do |path|
      hidden = false
      lines = File.readlines(path)
      closed_names = File.read(path)[/private_class_method (.+)$/m].to_s.scan(/:(\w+[?!]?)/).flatten
      lines.each_with_index.filter_map do |line, i|
        hidden = true if line.match?(/^\s+private\s*$/)
        hidden = false if line.match?(/^\s+(class|module) /)
        name = line[/^\s+def (?:self\.)?(\w+[?!]?)/, 1]
        if name.nil? || hidden || name.end_with?("?") || %w[initialize call].include?(name) ||
          closed_names.include?(name)
          next
        end

        above = lines[0...i].reverse.take_while do |each|
          each.match?(/^\s*(def [\w?!]+.* = |#|$)/) && !each.strip.empty?
        end
        "#{path.delete_prefix("#{root}/")}:#{i + 1} #{name}" unless above.any? { |each| each.strip.start_with?("#") }
      end
    end
    expect(bare).to eq []
  end
end
