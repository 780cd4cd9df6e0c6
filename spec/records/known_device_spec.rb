# frozen_string_literal: true

RSpec.describe Vestry::Records::KnownDevice do
  let(:orla) { person }
  let(:tam) { person("Tam Reed") }

  it "is new once, known by its own word from then on, and by nobody else's" do
    word, new = described_class.meet(orla.id, nil, "a phone")
    expect([new, described_class.meet(orla.id, word, "a phone")]).to eq [true, [word, false]]
    own, new = described_class.meet(tam.id, word, "a phone")
    expect([new, own == word]).to eq [true, false]
    expect(described_class.meet(orla.id, "guessed", "a phone").last).to be true
    expect(described_class.where(account_id: orla.id).select_map(:digest)).not_to include(word)
  end
end
