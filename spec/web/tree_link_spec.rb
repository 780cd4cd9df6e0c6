# frozen_string_literal: true

require "pdf-reader"
require "rack/test"

RSpec.describe "A tree for someone who does not sign in" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }
  let!(:here) { demo }
  let!(:orla) { person("Orla Finch", steward: here) }
  let(:shown) { here.trees_dataset.first(row: "A", number: 1) }
  let(:share) { "/o/maunder-hill/share/trees/#{shown.id}" }

  def page = last_response.body

  def shared(**fields)
    enter orla
    send_to(share, for_whom: "the owner", days: "30", **fields)
    page[%r{/tree/[\w-]+}]
  end

  def signed_out
    clear_cookies
    yield
  end

  it "opens one tree to read, with the card, and names nobody" do
    address = shared
    names = Vestry::DB[:accounts].select_map(:name) + Vestry::DB[:grafts].distinct.select_map(:grafter)
    signed_out { get address }
    expect(last_response.status).to eq 200
    expect(page).to include("A1 of Maunder Hill", "<svg class=\"drawing elevation")
    expect(page).to match(/grafted 21 April 2025/)
    expect(names.select { |name| page.include?(name) }).to eq []
    expect(page).not_to match(%r{<form|href="/o/|\breach\b})
    expect(last_response.headers.slice("x-robots-tag", "referrer-policy", "cache-control"))
      .to eq("x-robots-tag" => "noindex", "referrer-policy" => "same-origin", "cache-control" => "private, no-store")
    get "#{address}/card.pdf"
    reader = PDF::Reader.new(StringIO.new(page))
    # D1 came off with the head of D.
    tags = reader.pages.first.text.scan(/^\s*([A-Z]\d?)  ?\S/).flatten
    expect(tags & %w[A B C D D1]).to eq %w[A B C D]
    told = [*names, "reach"].select { |name| reader.pages.first.text.include?(name) }
    expect([reader.page_count, told]).to eq [1, []]
    expect(Vestry::Records::TreeLink.first.read_at).not_to be_nil
  end

  it "ends when its time is over, when it is ended, and with its tree; a guess opens nothing" do
    address = shared
    expect(get("#{address}x").status).to eq 404
    link = Vestry::Records::TreeLink.first
    link.update(ends_on: World::TODAY - 1)
    expect(get(address).status).to eq 404
    link.update(ends_on: World::TODAY)
    expect(get(address).status).to eq 200
    send_to("#{share}/revoke", link: link.id)
    expect(get(address).status).to eq 404
    again = shared
    shown.update(hidden_at: Time.now)
    expect(get(again).status).to eq 404
  end

  it "is given by a steward alone, for someone, for a time that is offered" do
    expect(shared(for_whom: " ")).to be_nil
    expect(page).to include "is wanted, so that it is known later whose it is"
    expect(shared(days: "9999")).to be_nil
    expect(page).to include "is one of 30, 180, 365 days"
    expect(shared(for_whom: "<script>alert(1)</script>")).not_to be_nil
    expect(page).not_to include "<script>alert"
    clear_cookies
    enter person("Tam Reddaway", grafter: here)
    expect(send_to(share, for_whom: "me", days: "30")).to eq 403
    expect(get(share).status).to eq 403
    expect(get("#{share}/card.pdf").status).to eq 200
  end

  it "opens no tree of another orchard" do
    other = tree(orchard, row: "Z")
    enter orla
    expect(send_to("/o/maunder-hill/share/trees/#{other.id}", for_whom: "me", days: "30")).to eq 404
    shared
    send_to("/o/maunder-hill/share/trees/#{here.trees_dataset.first(row: 'A', number: 2).id}/revoke",
            link: Vestry::Records::TreeLink.first.id)
    expect(Vestry::Records::TreeLink.first.revoked_at).to be_nil
  end

  it "opens no more than its limit where two share it at once" do
    share = lambda do |name|
      Vestry::Deeds::ShareTree.call(Vestry::Records::Tree[shown.id], for_whom: name, days: "30", by: "Orla Finch",
                                    today: World::TODAY) && "shared"
    rescue Vestry::Deeds::Refused
      "refused"
    end
    (1...Vestry::Deeds::ShareTree::MOST).each { |n| share["number #{n}"] }
    told = %w[one other].map { |name| Thread.new { share[name] } }.map(&:value)
    expect(told).to match_array %w[shared refused]
  end
end
