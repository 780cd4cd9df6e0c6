# frozen_string_literal: true

RSpec.describe "What happens to a limb" do
  let!(:here) { demo }
  let(:standing) { here.trees_dataset.first(row: "B", number: 9) }
  let(:limb) { standing.limbs.first }

  before { sign_in person(grafter: here) }

  it "is kept with its day, redraws the tree, says what to do, and stands in the story" do
    limb.update(length_mm: 2400)
    visit "/o/maunder-hill/survey/trees/#{standing.id}?limb=#{limb.id}"
    outline = -> { now("document.querySelector('svg.elevation').innerHTML") }
    before = outline.call
    find("summary", text: "Something happened to it").click
    choose "broke"
    fill_in "So much is left", with: "2.9 m"
    click_button "Keep what happened"
    expect(page).to have_content("is more than the 2.40 m that stood")
    fill_in "So much is left", with: "1.1 m"
    click_button "Keep what happened"
    expect(page).to have_content("#{limb.label} broke: the tree is drawn as it stands now.")
    expect(outline.call).not_to eq before
    expect(page).to have_css("section", text: /After it broke, what to do.*(Graft it|Leave it|Renew it)/m)
    expect(page).to have_css(".story li", text: "It broke; 1.10 m is left")
    expect(limb.reload.length_mm.to_f).to eq 1100.0
    visit "/o/maunder-hill/today"
    expect(page).to have_content("#{limb.label} broke on")
    visit "/o/maunder-hill/survey/trees/#{standing.id}?limb=#{limb.id}"
    click_button "Take this back"
    expect(page).to have_content("Taken back: #{limb.label} stands as it did before.")
    expect(outline.call).to eq before
    expect(limb.reload.length_mm.to_f).to eq 2400.0
  end
end
