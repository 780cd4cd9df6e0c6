# frozen_string_literal: true

require "nokogiri"
require "rack/test"

# Every form of the pages, sent with words where numbers go, and with numbers that nothing can be: it says in a grower's
# words what is wrong, and all that was typed stands where it was typed.
RSpec.describe "A form that is refused" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let(:here) { demo }
  let(:base) { "/o/#{here.slug}" }

  PAGES_WITH_FORMS = %w[
    varieties settings people files plan/pattern plan/allot plan/trees/1 plan/trees/45?limb=257 survey/trees/1
    survey/trees/1/limb survey/trees/9?limb=42 survey/trees/new slip/crew slip/walk graft/limbs/26
    graft/limbs/26/different graft/stubs?on=2026-05-18 tend/grafts/2 tally/grafts/2 repair repair/1 repair/1/log
    repair/2 share/trees/1 varieties/6 wood wood/bundles/1 wood/bundles/new wood/nursery wood/stores/1
    rulebook/entry/reckoning.wood.confidence practice/cuts
    practice/to-wood?seed=5&level=2 practice/seat?seed=5&level=2 practice/shoot?seed=5&level=2
    practice/line-up?seed=5&level=2 practice/where-to-cut?seed=5&level=2 practice/hands?seed=5&level=2
    practice/face?seed=5&level=2 practice/bridge?seed=5&level=2 practice/order?seed=5&level=2
    practice/which-face?seed=5&level=2 practice/read-graft?seed=5&level=2 practice/which-shoot?seed=5&level=2
    practice/ten-years?seed=5&level=2
  ].freeze
  # What a program calls a field, and what it counts.
  PROGRAMS_WORDS = /[a-z]_(?:mm|deg|on)\b|\[\d+\]|\bis one of\b|(?:\A|: )one of\b|\d\.0\b|it does not go with|dd\b/

  # What a browser sends of a form whose fields were all filled with one thing.
  def filled(form, word)
    form.css("input, select, textarea, button[name]").each_with_object({}) do |each, sent|
      name = each["name"] or next
      next if %w[submit image file].include?(each["type"]) || (each.name == "button" && sent.key?(name))

      value = value_of(each, word, sent.key?(name)) or next
      name.end_with?("[]") ? (sent[name.delete_suffix("[]")] ||= []) << value : sent[name] = value
    end
  end

  def value_of(field, word, sent_already)
    case field["type"] || field.name
    when "hidden", "button" then field["value"]
    when "checkbox" then field["checked"] && (field["value"] || "on")
    when "radio" then field["value"] if field["checked"] || !sent_already
    when "select" then field.css("option").map { |each| each["value"] || each.text }.reject(&:empty?).last
    else word
    end
  end

  HIDDEN = %w[authenticity_token once client_key].freeze

  # What was sent and no longer stands in the form.
  def lost(form, sent)
    sent.reject { |name, value| value.is_a?(Array) || HIDDEN.include?(name) }.reject do |name, value|
      form.css("[name='#{name}']").any? { |field| stands(field).include?(value) }
    end
  end

  def stands(field)
    case field["type"] || field.name
    when "textarea" then [field.text.strip]
    when "select" then field.css("option[selected]").map { |each| each["value"] || each.text }
    when "radio", "checkbox" then field["checked"] ? [field["value"]] : []
    else [field["value"]]
    end
  end

  def forms(page)
    get page
    expect([page, last_response.status]).to eq [page, 200]
    Nokogiri::HTML(last_response.body).css("main form[method=post]").select do |form|
      form.css("input:not([type=hidden]):not([type=file]):not([type=radio]):not([type=checkbox]), textarea").any?
    end
  end

  def refused(page, form, word)
    action = form["action"] || page
    sent = filled(form, word)
    post action, sent
    return [] unless last_response.status >= 400

    html = Nokogiri::HTML(last_response.body)
    again = html.css("main form").find do |each|
      each["action"] == form["action"] && (form.css("[name]").map { |field| field["name"] } -
        each.css("[name]").map { |field| field["name"] }).empty?
    end
    words = html.css("main .error, main [aria-invalid], .notice").map { |each| each.text.gsub(/\s+/, " ").strip }
    [("no words" if words.all?(&:empty?)), ("status #{last_response.status}" if last_response.status > 422),
     *words.grep(PROGRAMS_WORDS), *lost(again || html, sent)].compact
      .map { |wrong| [action, word, wrong] }
  end

  it "says what is wrong in a grower's words, and keeps what was typed" do
    enter person("Orla Finch", steward: here)
    seen = {}
    wrong = PAGES_WITH_FORMS.flat_map do |path|
      page = "#{base}/#{path}"
      forms(page).flat_map do |form|
        next [] if seen[key = [(form["action"] || page).gsub(/\d+/, "N"), form.css("[name]").size]]

        seen[key] = true
        %w[quince 99999999].flat_map do |word|
          Vestry::DB.transaction(rollback: :always, savepoint: true) { refused(page, form, word) }
        end
      end
    end
    expect(wrong).to eq []
    expect(seen.size).to be > 50
  end
end
