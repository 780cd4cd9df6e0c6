# frozen_string_literal: true

require "rack/test"

# Walks every route of every part with every kind of person.
RSpec.describe "Who may go where" do
  include Rack::Test::Methods
  include EveryRoute

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let!(:elsewhere) { orchard }

  def routes = every_route(here)

  # Addresses that name what the demo has none of.
  NOT_THERE = %r{nursery(\.pdf|/received)|members/999999|history/deeds/|
                 tries/999999|cuts/999999|promises/withdraw|match/keep|crew/fix|
                 versions/again}x

  # What only a steward reads.
  STEWARDS = %r{/outbox|/people/door|/files/orchard/|/share/trees/\d+\z}

  # A few trees carry all that the addresses name; the rest of the orchard only makes its pages longer.
  def few_trees
    named = [*Vestry::DB[:wounds].select_map(:tree_id), *Vestry::DB[:photos].select_map(:tree_id),
             Vestry::DB[:trees].where(row: "A").order(:number).select_map(:id).first(3),
             here.grafts_dataset.first(grafted_on: Date.new(2025, 4, 21)).limb.tree_id].flatten
    Vestry::DB[:trees].exclude(id: named).update(hidden_at: Time.now)
  end

  before do
    few_trees
    routes
  end

  def counts
    (Vestry::DB.tables - %i[schema_info door_counts account_active_session_keys door_log known_devices revisions derived
                            care_tasks care_mark care_states care_runs que_jobs]).to_h do |table|
      [table, Vestry::DB[table].count]
    end
  end

  # One token serves all forms of a session.
  def form_token(page = "/you")
    @form_token ||= begin
      get(page)
      token
    end
  end

  def knock(method, address)
    Vestry::DB[:door_counts].delete
    method == "GET" ? get(address) : post(address, authenticity_token: form_token, role: "viewer")
    last_response.status
  end

  # What is sent by a press, with where it goes.
  def presses(page)
    page.css("main form[method=post]").select do |form|
      form.at_css("button:not([type=button]), input[type=submit]") ||
        (form["id"] && page.at_css("button[form='#{form['id']}']"))
    end.flat_map do |form|
      [form["action"], *form.css("button[formaction]").map { |button| button["formaction"] }].uniq
    end.map { |address| address.sub(/\?.*/, "") }
  end

  # Presses of the page that was answered that this role may not send.
  def refused_presses(address, *roles)
    return [] unless last_response.status == 200 && last_response.media_type == "text/html"

    opened = Nokogiri::HTML(last_response.body)
    asked = presses(opened).map { |action| ["POST", action] } +
            opened.css("main a[href^='/o/']").map { |link| ["GET", link["href"].sub(/[?#].*/, "")] }.uniq
    asked.filter_map do |method, path|
      needed = Vestry::Web::Roles.needed(method, path[%r{\A/o/[^/]+/([^/]+)}, 1], path)
      [address, method, path] unless roles.include?(needed)
    end
  end

  it "finds routes to walk in every part" do
    expect(routes.map(&:last).uniq).to match_array Vestry::Web::OrchardRouter::STATIONS.keys
    expect(routes.size).to be > 30
  end

  it "shows nothing and writes nothing for someone signed out" do
    before = counts
    routes.each do |method, address, _|
      method == "GET" ? get(address) : post(address, authenticity_token: form_token("/sign-in"))
      expect([address, last_response.status, last_response.headers["location"]]).to match [address, 302, %r{/sign-in\z}]
      expect(last_response.body).not_to include("Maunder Hill")
    end
    expect(counts).to eq before
  end

  it "shows nothing and writes nothing for a member of another orchard" do
    enter person("Other Steward", steward: elsewhere)
    before = counts
    routes.each do |method, address, _|
      expect([method, address, knock(method, address)]).to eq [method, address, 404]
      expect(last_response.body).not_to include("Maunder Hill")
    end
    expect(counts).to eq before
  end

  it "reaches no row of another orchard through one's own" do
    enter person("Other Steward", steward: elsewhere)
    before = counts
    routes.select { |_, address, _| address.match?(/\d/) }.each do |method, address, _|
      address = address.sub("maunder-hill", elsewhere.slug)
      status = knock(method, address)
      expect([address, status]).to eq [address, 404] unless address.include?("/invites/")
      expect(last_response.body).not_to include("Skylark")
    end
    expect(counts).to eq before
  end

  it "lets a viewer read and write nothing" do
    enter person("Vera Viewer", viewer: here)
    before = counts
    routes.each do |method, address, _|
      wanted = method == "GET" && !address.match?(STEWARDS) && !address.end_with?("/hide") ? [200, 302] : [403]
      wanted = [200, 302] if address.end_with?("/leave")
      # What one practises is one's own; an answer with nothing in it is none.
      wanted = [200, 302, 404, 422] if address.include?("/practice")
      wanted = [404] if address.end_with?("/nursery.pdf")
      next if address.end_with?("/leave")

      expect([method, address, wanted]).to(satisfy { wanted.include?(knock(method, address)) })
      expect(refused_presses(address, "viewer")).to eq [] if method == "GET"
    end
    expect(counts).to eq before
  end

  it "lets a grafter record, and leaves deciding to the steward" do
    enter person("Gus Grafter", grafter: here)
    routes.select { |method, address, _| method == "POST" && !address.end_with?("/leave") }
      .each do |method, address, name|
      refused = knock(method, address) == 403
      decides = %w[plan varieties settings rulebook people share].include?(name) && !address.end_with?("/headed")
      expect([address, refused]).to eq [address, decides ||
                                        address.end_with?("/course", "/files/orchard", "/wood/nursery")]
    end
    expect(%w[outbox door].map { |page| knock("GET", "/o/maunder-hill/people/#{page}") }).to eq [403, 403]
  end

  it "offers a grafter no press that would be refused" do
    enter person("Gus Grafter", grafter: here)
    decided = %w[plan varieties settings rulebook people wood repair files history]
    pages = routes.filter_map do |method, address, name|
      address if method == "GET" && decided.include?(name) && !address.match?(STEWARDS)
    end
    expect(pages.flat_map do |address|
      knock("GET", address)
      refused_presses(address, "viewer", "grafter")
    end).to eq []
  end

  # Pages that a viewer reads are opened by a steward wherever a link leads (every_page_spec).
  it "lets a steward do everything, and read what a viewer may not" do
    enter person("Sue Steward", steward: here)
    asked = routes.select { |method, address, _| method == "POST" || address.match?(STEWARDS) }
    expect(asked.map(&:first).tally).to match("POST" => be > 80, "GET" => be > 3)
    asked.reject { |_, address, _| address.end_with?("/leave") }.each do |method, address, _|
      status = knock(method, address)
      expect([method, address, status]).to(satisfy { [200, 302, 303, 422].include?(status) ||
                                                     (status == 404 && address.match?(NOT_THERE)) })
    end
  end
end
