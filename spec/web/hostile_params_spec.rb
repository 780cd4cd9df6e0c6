# frozen_string_literal: true

require "rack/test"

# Asks every route of every part for what nobody should ask, whoever may: whatever comes, the answer is a page or a
# refusal, and never a failure.
RSpec.describe "Hostile parameters" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }

  HOSTILE_MANY = 900
  # What is put where a word, a number or a file is looked for. Each is a string, or what a form with brackets makes.
  HOSTILE_VALUES = [
    "", " ", "\u0000", "a\u0000b", "\xFF".b, "\xC3\x28".b, "null", "undefined", "true", "0", "-1", "1", "1e400", "NaN",
    "-Infinity", "99999999999999999999", "2147483648", "-2147483649",
    "0x10", "1_000", "½", "٣", "８", "2026-02-30", "9999-12-31", "0000-00-00", "today", "infinity", "24:61",
    "'; DROP TABLE trees; --", "%27", "\\", "%s%n", "{{7*7}}", "<script>alert(1)</script>",
    "../../etc/passwd", "..%2f..%2f", "/dev/null", "http://127.0.0.1:1/", "\u202Egnp.exe", "\u2066x\u2069", "a\nb",
    "a\r\nSet-Cookie: x=1", "😀" * 40, "ÿ" * 500, "x" * 20_000, "9" * 400, "1 " * 2_000, "[]", "{}",
    "[[[[[[", "{\"a\":", "\"unclosed", "=1+1", "-", "+", ".", ",", ";", "1,5", "12 mm 12 mm", "8 3/0 in", "1/0",
    "N\u00B0", "361", "-361",
    ["a", "b"], [], [[]], { "a" => "b" }, { "0" => { "0" => "x" } }, { "tempfile" => "/etc/passwd", "filename" => "x" },
    :upload, :empty_upload
  ].freeze

  # The words that are asked for anywhere in the web's own code, and the fields of every form.
  def names
    @names ||= begin
      code = Dir[File.join(Vestry::ROOT, "web/**/*.{rb,erb}")].sort.flat_map do |file|
        File.read(file).scan(/params\[['"](\w+)['"]\]/).flatten + File.read(file).scan(/name="(\w+)"/).flatten
      end
      forms = Vestry::Web::Contracts.constants.sort.map { |name| Vestry::Web::Contracts.const_get(name) }
        .select do |each|
        each.is_a?(Class) && each < Dry::Validation::Contract && each.schema
      end
      (code + forms.flat_map { |form| form.schema.key_map.map { |key| key.name.to_s } }).uniq
        .sort - %w[authenticity_token]
    end
  end

  # Every route there is, with a number, a word or worse where it has a place for one.
  def routes
    inside = Vestry::Web::OrchardRouter::STATIONS.flat_map do |name, station|
      each_route(station, "/o/#{here.slug}/#{name}")
    end
    outside = each_route(Vestry::Web::AccountPages, "") + each_route(Vestry::Web::Bring, "") +
      each_route(Vestry::Web::Api::App, "/api")
    doors = %w[sign-in forgotten locked unlock new-password password password-again address new-address second-step
               second-step-now second-step-off code-setup code code-off recovery recovery-codes
               security-key-setup security-key security-key-off close-account].flat_map do |path|
                 [["GET", "/#{path}"], ["POST", "/#{path}"]]
               end
    (inside + outside + doors).uniq
  end

  def each_route(part, before)
    part.routes.slice("GET", "POST", "PUT", "DELETE").flat_map do |verb, all|
      all.map { |pattern, *| [verb, "#{before}#{pattern}".sub(%r{(?<=.)/\z}, "")] }
    end
  end

  def filled(path, random)
    kinds = { ":slug" => here.slug, ":size" => "small", ":kind" => "limbs", ":name" => "trees", ":table" => "limbs",
              ":row" => "A" }
    path.gsub(/:\w+/) do |part|
      random.rand < 0.3 ? Rack::Utils.escape_path(["0", "-1", "abc", "99999999999999", "%FF", "\u0000", "a'b", "1.5",
                                                   "x" * 300].sample(random: random)) : kinds.fetch(part,
                                                          random.rand(1..60).to_s)
    end
  end

  def value(random)
    case (one = HOSTILE_VALUES.sample(random: random))
    when :upload then Rack::Test::UploadedFile.new(StringIO.new("\xFF\xD8\u0000 not a picture"), "image/jpeg",
                                                   original_filename: "a\nb\u202E.jpg")
    when :empty_upload then Rack::Test::UploadedFile.new(StringIO.new(""), "text/csv", original_filename: "")
    else one
    end
  end

  # Nobody but the one who asks is kept waiting.
  def unhurried = Vestry::DB[:door_counts].delete

  def ask(verb, path, asked, key)
    if path.start_with?("/api")
      return public_send(verb.downcase, path, verb == "GET" ? asked :
                         JSON.generate(asked.transform_values { |each| plain(each) }),
                         "HTTP_AUTHORIZATION" => "Bearer #{key}")
    end
    return get(path, asked) if verb == "GET"

    post(path, asked.merge("authenticity_token" => @token))
  end

  def plain(value)
    value.is_a?(String) ? value.dup.force_encoding("UTF-8").scrub("?") : (value.respond_to?(:original_filename) ?
      "file" : value)
  end

  def come_in(account)
    clear_cookies
    unhurried
    Vestry::DB[:sign_in_tries].delete
    enter account
    get "/you"
    @token = token
  end

  it "are read or refused by every form, in every field of it" do
    forms = Vestry::Web::Contracts.constants.sort.map { |name| Vestry::Web::Contracts.const_get(name) }.select do |each|
      each.is_a?(Class) && each < Vestry::Web::Contracts::Form
    end
    expect(forms.size).to be > 20
    typed = HOSTILE_VALUES.grep_v(Symbol).map { |one| one.is_a?(String) ? one.dup.force_encoding("UTF-8") : one }
    wrong = forms.flat_map do |form|
      fields = form.schema.key_map.map { |key| key.name.to_s }
      # Every value stands in every field once, beside others, in one unit or the other.
      typed.each_index.zip(%w[metric imperial].cycle).filter_map do |turn, units|
        sent = fields.each_with_index.to_h { |field, place| [field, typed[(turn + place * 7) % typed.size]] }
        form.new(units: units).read(sent).errors && nil
      rescue StandardError => e
        [form.name, e.class.name, e.message[0, 120],
         e.backtrace.find { |line| line.include?("/web/contracts") }.to_s.delete_prefix(Vestry::ROOT)]
      end
    end
    expect(wrong.uniq { |each| each.values_at(0, 1, 3) }).to eq []
  end

  it "fail nowhere: #{HOSTILE_MANY} of them over all routes" do
    # The same each time; FUZZ_SEED asks for others.
    random = Random.new(Integer(ENV.fetch("FUZZ_SEED", "23"), 10))
    orla = person("Orla Finch", steward: here)
    key = Vestry::Records::ApiToken.issue(orla, "a script")
    all = routes
    expect(all.size).to be > 250
    wrong = Hash.new { |hash, path| hash[path] = [] }
    sent = 0
    # Each round is as fresh as the first: what one asked for may have put a good deal out of sight.
    while sent < HOSTILE_MANY
      Vestry::DB.transaction(rollback: :always) do
        come_in(orla)
        all.shuffle(random: random).first(150).each do |verb, pattern|
          path = filled(pattern, random)
          asked = names.sample(random.rand(1..6), random: random).to_h { |name| [name, value(random)] }
          sent += asked.size
          unhurried
          Vestry::DB.transaction(savepoint: true) { ask(verb, path, asked, key) }
          wrong["#{verb} #{pattern}"] << [last_response.status, asked] if last_response.status >= 500
          if [302, 401].include?(last_response.status) && last_response.headers["location"].to_s.end_with?("/sign-in")
            come_in(orla)
          end
        rescue StandardError => e
          at = e.backtrace.find do |line|
            line.start_with?("#{Vestry::ROOT}/") && !line.include?("/vendor/") && !line.include?("/spec/")
          end
          wrong["#{verb} #{pattern}"] << [e.class.name, e.message[0, 160], at.to_s.delete_prefix(Vestry::ROOT),
                                          asked.transform_values { |each| each.to_s[0, 30] }]
        end
      end
    end
    expect(wrong.transform_values(&:first)).to eq({})
  end
end
