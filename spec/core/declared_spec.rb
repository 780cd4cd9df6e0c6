# frozen_string_literal: true

# What every reckoning takes, and within which bounds, is written down for those who call it: it changes only where
# that is changed too (bin/reckon --all > docs/reckonings.md).
RSpec.describe "What is declared" do
  let(:written) { File.read(File.expand_path("../../docs/reckonings.md", __dir__)) }

  it "is what is written of it" do
    now = Vestry::Core.reckonings_page
    expect(now.lines.zip(written.lines).reject { |here, there| here == there }.first(3)).to eq []
    expect(now.lines.size).to eq written.lines.size
  end
end
