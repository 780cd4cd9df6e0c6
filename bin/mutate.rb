# frozen_string_literal: true

# In a copy of the code: one change at a time, the examples that run its line, and what survived.
#   bin/mutate.rb [HOW MANY] [SEED] [ROOM...]
require "json"
require "ripper"
require "timeout"

many = Integer(ARGV[0] || "120", 10)
seed = Integer(ARGV[1] || "1", 10)
rooms = ARGV[2..].to_a.empty? ? %w[core records deeds web] : ARGV[2..]
PATIENCE = 240

Site = Struct.new(:file, :line, :from, :upto, :instead, :what, keyword_init: true)

# What may be changed in a file, as places in its text.
class Sites
  SWAPS = { "<" => "<=", ">" => ">=", "<=" => "<", ">=" => ">", "==" => "!=", "!=" => "==", "&&" => "||", "||" => "&&",
            "+" => "-", "-" => "+" }.freeze

  # What nobody sees changed: how many rows or letters are looked at at most, how long a search goes on, the numbers of
  # locks, and what an exercise draws by chance.
  CAP = /\b(?:MOST|SAMPLE|PAGE|KINDS|LONGEST|ROUNDS|NODES|EXCHANGES|NUMBERS)\w*\ =\ |\bmost:\ \d
        |\.(?:first|last|limit|take)\(\d|\[0,\ \d+\]|%\ \d+\)\.zero\?/x
  UNSEEN = /\brand(?:om)?\b|\.rand\b|split\([^)]*, \d\)/
  private_constant :CAP, :UNSEEN

  def initialize(file)
    @file = file
    @text = File.read(file)
    @lines = @text.lines
    @tokens = Ripper.lex(@text)
    @starts = @text.lines.inject([0]) { |all, line| all << (all.last + line.bytesize) }
  end

  def all = @tokens.each_with_index.flat_map { |token, place| at(token, place) }.compact

  private

  def at(token, place)
    (line, column), kind, text = token
    return if @lines[line - 1].match?(UNSEEN) ||
              (%i[on_int on_float].include?(kind) && @lines[line - 1].match?(CAP))

    from = @starts[line - 1] + column
    case kind
    when :on_op then operator(line, from, text, place)
    when :on_int then site(line, from, text, (text.delete("_").to_i + 1).to_s, "a number") unless text.start_with?("0x")
    when :on_float then site(line, from, text, text.to_f.zero? ? "1.0" : (text.to_f * 1.5).to_s, "a number")
    when :on_kw then word(line, from, text, place)
    when :on_lparen then arguments(place)
    end
  end

  def operator(line, from, text, place)
    spaced = @tokens[place - 1][1] == :on_sp && @tokens[place + 1] && @tokens[place + 1][1] == :on_sp
    return unless SWAPS.key?(text) && spaced
    # Whether a billionth is added or taken away, or a tie within it counts, is not seen.
    return if @lines[line - 1].include?("Near::TOLERANCE") && !%w[&& || == !=].include?(text) &&
              tolerance?(line, text, place)

    site(line, from, text, SWAPS[text], %w[&& ||].include?(text) ? "a condition" : "a comparison")
  end

  def tolerance?(line, text, place)
    return true if %w[< <= > >=].include?(text)

    @tokens[(place + 1)..(place + 3)].any? { |token| token[0][0] == line && token[2] == "Near" }
  end

  def word(line, from, text, place)
    return site(line, from, text, text == "true" ? "false" : "true", "a constant") if %w[true false].include?(text)
    return unless %w[if unless].include?(text) && place.positive? && @tokens[place - 1][1] == :on_sp &&
                  @tokens[0...place].reverse.find { |other| other[1] != :on_sp }&.then { |other| other[0][0] == line }

    site(line, from, text, text == "if" ? "unless" : "if", "a condition")
  end

  # Two plain names one after the other, exchanged.
  def arguments(place)
    inside = @tokens[(place + 1)..(place + 4)].to_a
    names = inside.values_at(0, 3).compact
    return unless inside[1]&.at(1) == :on_comma && names.size == 2 && names.all? { |name| name[1] == :on_ident }
    return unless %i[on_comma on_rparen].include?(@tokens[place + 5]&.at(1)) && names[0][2] != names[1][2]
    return if @tokens[0...place].reverse.first(5).any? { |token| token[2] == "def" }

    line = names[0][0][0]
    from = @starts[line - 1] + names[0][0][1]
    site(line, from, "#{names[0][2]}, #{names[1][2]}", "#{names[1][2]}, #{names[0][2]}", "two arguments")
  end

  def site(line, from, text, instead, what)
    Site.new(file: @file, line: line, from: from, upto: from + text.bytesize, instead: instead, what: what)
  end
end

# The examples that should notice a change: those that run its line, the ones that run least besides first. What stands
# in the line of its own "def" runs where it is called. A line that none runs by itself (a constant, a heading of a
# class) goes by the examples that run most of its file, and by those that hold what is declared.
class Examples
  # A statement goes on over so many lines at most.
  REACH = 8
  MOST = 25
  DECLARED = %w[spec/core/declared_spec.rb].freeze
  # Of each line that calls it.
  OF_A_CALL = 6

  def initialize(map)
    @map = map
    @sources = map.keys.select { |file| File.file?(file) }.to_h { |file| [file, File.readlines(file)] }
  end

  def for(site)
    text = @sources.fetch(site.file, [])[site.line - 1].to_s
    called = text[/\bdef (?:self\.)?(\w+[?!]?)/, 1]
    (called && calls(called, site.file).then { |found| found unless found.empty? }) || running(site) || near(site)
  end

  private

  # A line that one example alone runs was run as the file was loaded.
  def running(site)
    lines = @map.fetch(site.file, {})
    own = site.line.downto([site.line - REACH, 1].max).find { |line| lines[line.to_s].to_a.size > 1 }
    lines[own.to_s].first(MOST) if own
  end

  def calls(name, home)
    word = /(?<![\w:])#{Regexp.escape(name)}(?![\w?!:])/
    @sources.flat_map do |file, lines|
      here = lines.each_index.select { |index| lines[index].match?(word) && !lines[index].include?("def #{name}") }
      ran = here.map { |index| @map[file][(index + 1).to_s].to_a }.select { |all| all.size > 1 }
      ran.flat_map { |all| all.first(OF_A_CALL) }.map { |example| [file == home ? 0 : 1, example] }
    end.sort_by.with_index { |(far, _), place| [far, place] }.map(&:last).uniq.first(MOST)
  end

  def near(site)
    @map.fetch(site.file, {}).values.flatten.tally.sort_by { |_, count| -count }.first(MOST).map(&:first) + DECLARED
  end
end

# The few that run least besides first: most changes are noticed by them.
FIRST = 6

# What holds all that is declared and said, whoever runs which line.
WHOLE = %w[spec/web/said_spec.rb spec/web/fields_spec.rb].freeze

# @return [Boolean] whether an example failed, or the run never ended; those of the file that mirrors this one are
#   asked late: of a line that many run, they need not be among the first
def noticed?(examples, file)
  mirror = "spec/#{file.sub(/\.rb\z/, '_spec.rb')}"
  [examples.first(FIRST), examples.drop(FIRST), [mirror, *WHOLE].select { |path| File.file?(path) }]
    .any? { |some| some.any? && fail?(some) }
end

def fail?(examples)
  pid = Process.spawn("bundle", "exec", "rspec", "--fail-fast", *examples, %i[out err] => File::NULL, pgroup: true)
  Timeout.timeout(PATIENCE) { !Process.wait2(pid).last.success? }
rescue Timeout::Error
  # What it began ends with it.
  Process.kill("KILL", -pid)
  Process.wait(pid)
  true
end

random = Random.new(seed)
sites = rooms.to_h do |room|
  [room, Dir["#{room}/**/*.rb"].grep_v(/migrations/).sort.flat_map { |file| Sites.new(file).all }]
end
chosen = rooms.flat_map { |room| sites[room].sample(many / rooms.size, random: random) }
examples = Examples.new(JSON.parse(File.read(ENV.fetch("LINE_MAP"))))
done = 0
survived = Hash.new { |hash, room| hash[room] = [] }
chosen.each do |site|
  whole = File.binread(site.file)
  File.binwrite(site.file, whole.dup.tap { |text| text[site.from...site.upto] = site.instead.b })
  next unless Ripper.sexp(File.read(site.file)) && !noticed?(examples.for(site), site.file)

  survived[site.file[%r{\A[^/]+}]] << [site, whole.byteslice(site.from...site.upto).to_s]
  warn "survived: #{site.file}:#{site.line} #{site.what}"
ensure
  done += 1
  warn "#{done} of #{chosen.size}" if (done % 10).zero?
  File.binwrite(site.file, whole)
end

puts "# What the specs notice", "",
     "`bin/mutate` changed one thing at a time in a copy (seed #{seed}) and ran the examples that run its line.", "",
     "| room | changed | not noticed |", "|---|--:|--:|"
rooms.each do |room|
  puts "| #{room} | #{chosen.count { |site| site.file.start_with?("#{room}/") }} | #{survived[room].size} |"
end
puts "", "Not noticed:", ""
survived.each_value do |all|
  all.each { |site, before| puts "- `#{site.file}:#{site.line}` #{site.what}: `#{before}` as `#{site.instead}`" }
end
