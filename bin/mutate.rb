# frozen_string_literal: true

# In a copy of the code: one change at a time, the specs that should notice it, and what survived.
#   bin/mutate.rb [HOW MANY] [SEED] [ROOM...]
require "ripper"
require "timeout"

many = Integer(ARGV[0] || "120", 10)
seed = Integer(ARGV[1] || "1", 10)
rooms = ARGV[2..].to_a.empty? ? %w[core records deeds web] : ARGV[2..]
# So many spec files are run for one change, those that name the changed thing most often first.
MOST_SPECS = 6
PATIENCE = 240

Site = Struct.new(:file, :line, :from, :upto, :instead, :what, keyword_init: true)

# What may be changed in a file, as places in its text.
class Sites
  SWAPS = { "<" => "<=", ">" => ">=", "<=" => "<", ">=" => ">", "==" => "!=", "!=" => "==", "&&" => "||", "||" => "&&",
            "+" => "-", "-" => "+" }.freeze

  def initialize(file)
    @file = file
    @text = File.read(file)
    @tokens = Ripper.lex(@text)
    @starts = @text.lines.inject([0]) { |all, line| all << (all.last + line.bytesize) }
  end

  def all = @tokens.each_with_index.flat_map { |token, place| at(token, place) }.compact

  private

  def at(token, place)
    (line, column), kind, text = token
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

    site(line, from, text, SWAPS[text], %w[&& ||].include?(text) ? "a condition" : "a comparison")
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
    return if @tokens[0...place].reverse.first(3).any? { |token| token[2] == "def" }

    line = names[0][0][0]
    from = @starts[line - 1] + names[0][0][1]
    site(line, from, "#{names[0][2]}, #{names[1][2]}", "#{names[1][2]}, #{names[0][2]}", "two arguments")
  end

  def site(line, from, text, instead, what)
    Site.new(file: @file, line: line, from: from, upto: from + text.bytesize, instead: instead, what: what)
  end
end

# The specs that should notice a change in a file.
class Specs
  def initialize
    @texts = Dir["spec/**/*_spec.rb"].grep_v(%r{spec/(browser|scripts)/}).to_h { |file| [file, File.read(file)] }
  end

  def for(file)
    own = file.sub(/\.rb\z/, "_spec.rb").then { |path| "spec/#{path}" }
    return [own] if file.start_with?("core/") && File.file?(own)

    name = File.basename(file, ".rb").split("_").map(&:capitalize).join
    named = @texts.transform_values { |text| text.scan(/\b#{name}\b/).size }.select { |_, count| count.positive? }
    near = beside(File.dirname(file))
    ([own].select { |spec| @texts.key?(spec) } + named.sort_by { |_, count| -count }.map(&:first) + near).uniq
      .first(MOST_SPECS)
  end

  private

  # The specs of a folder, or of the nearest one above it that has any.
  def beside(folder)
    found = @texts.keys.select { |spec| spec.start_with?("spec/#{folder}/") }
    found.any? || !folder.include?("/") ? found : beside(File.dirname(folder))
  end
end

# @return [Boolean] whether a spec failed, or never ended
def noticed?(specs)
  return false if specs.empty?

  pid = Process.spawn("bundle", "exec", "rspec", "--fail-fast", *specs, %i[out err] => File::NULL, pgroup: true)
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
specs = Specs.new
survived = Hash.new { |hash, room| hash[room] = [] }
chosen.each do |site|
  whole = File.binread(site.file)
  File.binwrite(site.file, whole.dup.tap { |text| text[site.from...site.upto] = site.instead.b })
  next unless Ripper.sexp(File.read(site.file)) && !noticed?(specs.for(site.file))

  survived[site.file[%r{\A[^/]+}]] << [site, whole.byteslice(site.from...site.upto).to_s]
  warn "survived: #{site.file}:#{site.line} #{site.what}"
ensure
  File.binwrite(site.file, whole)
end

puts "# What the specs notice", "",
     "`bin/mutate` changed one thing at a time in a copy (seed #{seed}) and ran the specs that should notice.", "",
     "| room | changed | not noticed |", "|---|--:|--:|"
rooms.each do |room|
  puts "| #{room} | #{chosen.count { |site| site.file.start_with?("#{room}/") }} | #{survived[room].size} |"
end
puts "", "Not noticed:", ""
survived.each_value do |all|
  all.each { |site, before| puts "- `#{site.file}:#{site.line}` #{site.what}: `#{before}` as `#{site.instead}`" }
end
