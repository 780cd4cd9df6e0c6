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
      names = others.to_h { |other| [other, /(?<![\w:"'])#{other}::|(?<![\w"'])Vestry::#{other}::/] }
      named = Dir[File.join(root, room, "**/*.rb")].flat_map do |path|
        File.readlines(path).reject { |line| line.strip.start_with?("#") }
          .flat_map do |line|
            names.select { |_, pattern| line.match?(pattern) }
              .map { |other, _| "#{path.delete_prefix("#{root}/")}: #{other}" }
          end
      end
      expect(named).to eq []
    end
  end

  # What makes a dataset, by the words of Sequel; a word of Ruby's own counts where it takes what only Sequel's does.
  # A deed opens its transaction, and knows the database's errors.
  dataset = /(?<![\w:])DB\[|(?<![\w:])DB\.(?!transaction|in_transaction|disconnect)|
             \bSequel\b(?!::\w*(Error|Violation|Timeout|ConnectionE|DisconnectE|Model))|
             \.(where|for_update|select_map|multi_insert|insert_conflict|eager|in_sight)\b(?!_)|_dataset\b|
             \.(order|exclude|limit)\(|\.first\(\w+:|\.insert\(\w+:/x
  # Sign-in is rodauth's, which is set up over the tables it keeps.
  signing_in = %w[web/people.rb web/people/sessions.rb web/stack/steady.rb]

  it "builds no dataset in deeds, pages, drawings and sheets" do
    asked = (rooms - %w[core records outside]).flat_map { |room| Dir[File.join(root, room, "**/*.{rb,erb}")] }
      .flat_map do |path|
        name = path.delete_prefix("#{root}/")
        next [] if signing_in.include?(name)

        File.readlines(path).reject { |line| line.strip.start_with?("#") }.grep(dataset)
          .map { |line| "#{name}: #{line.strip}" }
      end
    expect(asked).to eq []
  end

  it "gives no constant's name to two rooms" do
    # The stations of the job hold the core's reckonings; two of them are words for rows too.
    stations = %w[Survey Plan Wood Slip Graft Repair Tend Tally]
    named = Hash.new { |all, name| all[name] = [] }
    rooms.each do |room|
      Dir[File.join(root, room, "**/*.rb")].reject { |path| path.include?("/migrations/") }.each do |path|
        File.read(path).scan(/^\s*(?:(?:class|module) ([A-Z]\w*)(?![\w:])|([A-Z][a-z]\w*) = (?:Struct|Class)\.new)/)
          .flatten.compact.each { |name| named[name] |= [room] }
      end
    end
    twice = named.select { |_, where| where.size > 1 }
      .except("Vestry", "Core", "Records", "Deeds", "Drawings", "Outside", "Sheets", "Web", *stations)
    expect(twice).to eq({})
  end

  it "names no file in its map that is not there" do
    map = File.read(File.join(root, "docs/architecture.md"))
    files = map.scan(/`((?:core|records|deeds|drawings|web|rulebook|docs|spec|outside)\/[\w\/.-]+\.\w+)`/).flatten
    expect(files.size).to be > 20
    expect(files.reject { |file| File.exist?(File.join(root, file)) }).to eq []
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

  # A figure that an orchard overrules or has learned would else hold on one page and not on another.
  it "asks the core with the orchard's own rulebook wherever it reads figures" do
    asked = Dir[File.join(root, "core/**/*.rb")].flat_map do |file|
      text = File.read(file)
      names = text.scan(/def self\.(\w+)\([^)]*rulebook: Rulebook\.shipped/m).flatten
      names << "reckon" if text.include?("extend Reckoning")
      names.map { |name| "#{File.basename(file, '.rb').split('_').map(&:capitalize).join}.#{name}" }
    end
    expect(asked.size).to be > 40
    calls = Dir[File.join(root, "{records,deeds,web,drawings,sheets}/**/*.rb")].flat_map do |file|
      text = File.read(file)
      text.enum_for(:scan, /\b([A-Z]\w+)\s*\.(\w+)(\((?:[^()]|\g<3>)*\))/).filter_map do
        "#{file.delete_prefix(root)} #{$1}.#{$2}" if asked.include?("#{$1}.#{$2}") && !$3.include?("book")
      end
    end
    # Some read no figure that can be overruled; pictures are measured alike everywhere, and sticks of practice are
    # nobody's.
    expect(calls.grep_v(%r{/measure_picture\.rb |/practice| (?:GraftKind|Section|Bloom)\.})).to eq []
  end
end
