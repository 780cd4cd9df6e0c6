# frozen_string_literal: true

RSpec.describe "Shoots from the stock", :core do
  it "are rubbed off, left until the graft has taken where the school says so, and kept where it is dead" do
    verdict = Vestry::Core::Tend::StockShoots.method(:verdict)
    expect(%w[knitting waiting growing].map { |state| verdict[state, "from-start"] }).to eq %w[rub rub rub]
    expect(%w[knitting late growing].map { |state| verdict[state, "after-take"] }).to eq %w[leave leave rub]
    %w[bud approach].each do |kind|
      expect(%w[knitting sleeping growing].map { |state| verdict[state, "from-start", kind: kind] })
        .to eq %w[leave leave rub]
    end
    expect(verdict["knitting", "from-start", kind: "side"]).to eq "rub"
    expect(%w[from-start after-take].map { |practice| verdict["failed", practice] }).to eq %w[keep keep]
  end
end
