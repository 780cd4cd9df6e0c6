# frozen_string_literal: true

RSpec.describe "How fast a tree is changed" do
  let!(:here) { demo }

  it "shows one, two and three seasons side by side, and one press chooses" do
    sign_in person(steward: here)
    bare = here.trees_dataset.first(row: "B", number: 1)
    visit "/o/maunder-hill/plan/trees/#{bare.id}"
    within("table.pace") do
      expect(all("thead th").map(&:text).drop(1)).to eq ["one season", "two seasons", "three seasons"]
      expect(all("tbody tr")[1].all("td").map(&:text)).to match [/\A\d+ %\z/, /\A\d+ % · \d+ %\z/, /\A\d+ % · \d+ % · \d+ %\z/]
      find("button[aria-label='Choose 2 seasons']").click
    end
    expect(page).to have_content("B1 is changed over 2 seasons")
    expect(page).to have_css("svg.elevation a.tag.work", minimum: 1)
    expect(page).to have_css("svg.elevation a.tag.later", minimum: 1)
    expect(page).to have_css("svg.elevation a.tag.nurse", minimum: 1)
  end
end
