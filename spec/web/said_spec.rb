# frozen_string_literal: true

require "rack/test"

# What both orchards of the demo say on three days of a year, as it was last read by a person. When it is to change:
#   SAID=anew bin/test spec/web/said_spec.rb
# writes it again, and what became different is read before it is kept.
RSpec.describe "What is said" do
  include Rack::Test::Methods

  let(:app) { Vestry::Web::Stack.build }

  SAID_DAYS = %w[2026-05-18 2026-10-09 2027-03-23].map { |day| Date.iso8601(day) }.freeze

  # The stations' pages, and those of a few trees, limbs and grafts: others on each day.
  def pages(here, round)
    trees, grafts = here.trees_dataset.order(:id).select_map(:id), here.grafts_dataset.order(:id).select_map(:id)
    limbs = Vestry::Records::Limb.where(orchard_id: here.id).order(:id).select_map(:id)
    wounds = Vestry::Records::Wound.where(orchard_id: here.id).order(:id).select_map(:id)
    tree, limb, graft = trees[round * 2 % trees.size], limbs[round * 7 % limbs.size], grafts[round * 5 % grafts.size]
    # What the practice bench shows is drawn by chance.
    [*(Said::STATIONS - %w[practice]), "tally/took", "survey/trees/#{tree}", "plan/trees/#{tree}",
     "tally/trees/#{tree}", "tally/limbs/#{limb}", "graft/limbs/#{limb}", "tend/grafts/#{graft}",
     *wounds.rotate(round).first(1).map { |wound| "repair/#{wound}" }]
  end

  # Each sentence where it is said first.
  def sentences(here)
    seen = {}
    SAID_DAYS.each_with_index.flat_map do |day, round|
      allow(Vestry::Outside::Clock).to receive(:today).and_return(day)
      pages(here, round).flat_map do |page|
        get "/o/#{here.slug}/#{page}"
        follow_redirect! while last_response.redirect?
        expect([day, page, last_response.status]).to eq [day, page, 200]
        fresh = Said.of(last_response.body).uniq.reject { |said| seen[said] || said.start_with?("Vestry ") }
        fresh.each { |said| seen[said] = true }
        fresh.empty? ? [] : ["", "#{day} #{page}", *fresh]
      end
    end
  end

  { "maunder-hill" => -> { demo }, "tern-flat" => lambda {
    Vestry::Records::Archive.read(File.join(Vestry::ROOT, "demo/tern-flat"))
  } }.each do |name, orchard|
    it "is at #{name} what was read of it" do
      here = instance_exec(&orchard)
      enter person("Hanna Sorrel", steward: here)
      file, now = File.join(__dir__, "said", "#{name}.txt"), sentences(here)
      File.write(file, "#{now.join("\n")}\n") if ENV["SAID"] == "anew"
      was = File.readlines(file, chomp: true)
      expect([(now - was).first(8), (was - now).first(8)]).to eq [[], []]
      expect(now).to eq was
    end
  end
end
