# frozen_string_literal: true

# A form that was sent, and that the browser shows again as it was when somebody goes back to it.
RSpec.describe "A form that is gone back to" do
  let!(:here) { demo }
  let(:bundles) { Vestry::Records::Bundle.where(orchard_id: here.id).order(:id) }

  before { sign_in person(steward: here) }

  # The page stays as it is while its form is sent, as one does that a browser keeps for going back.
  def keep_the_page
    now("document.querySelector('main form[method=post]').addEventListener('submit', (event) => { " \
        "event.preventDefault(); fetch(event.target.action, { method: 'POST', body: new URLSearchParams(new FormData(" \
        "event.target)) }).then((answer) => { document.documentElement.dataset.sent = answer.url; }); })")
  end

  def tie(diameters)
    now("delete document.documentElement.dataset.sent")
    fill_in "Diameters, one after another", with: diameters
    click_button "Tie this bundle"
    expect(page).to have_css("html[data-sent*='/wood/bundles/']")
  end

  it "is the same deed as long as it says the same, and another as soon as it says something else" do
    before = bundles.count
    visit "/o/maunder-hill/wood/bundles/new"
    find("option", text: /\ATollgate Amber/).select_option
    fill_in "or from elsewhere", with: "A neighbour"
    fill_in "Cut on", with: Date.new(2026, 1, 16)
    all("input[name='checked[]']").each { |box| box.set(true) }
    keep_the_page
    tie("8 9 10")
    tie("8 9 10")
    expect(bundles.count).to eq before + 1
    tie("8 9")
    expect(bundles.last(2).map { |each| each.sticks.size }).to eq [2, 3]
  end
end
