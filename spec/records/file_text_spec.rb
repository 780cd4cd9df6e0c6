# frozen_string_literal: true

RSpec.describe Vestry::Records::FileText do
  it "reads two bytes to a sign by their mark, or by every other one being nothing" do
    text = "tag;girth\nA;Bäume 210\n"
    expect(described_class.of("\uFEFF#{text}".encode("UTF-16LE").b)).to eq text
    expect(described_class.of("\uFEFF#{text}".encode("UTF-16BE").b)).to eq text
    expect(described_class.of(text.encode("UTF-16LE").b)).to eq text
    expect(described_class.of("A;1\n".encode("UTF-16LE").b)).to eq "A;1\n"
  end

  it "takes what is too short, or has nothing in the wrong places, for no text" do
    nothing = "\u0000"
    ["A;1".encode("UTF-16LE").b, "A#{nothing * 9}x", "tag#{nothing}girth\n12"].each do |bytes|
      expect { described_class.of(bytes) }.to raise_error(described_class::Unreadable, /not a text file/)
    end
  end

  it "reads a spreadsheet's own letters, plain line ends, and says what is empty" do
    expect(described_class.of("Äpfel\r\nBäume\rx".encode("Windows-1252").b)).to eq "Äpfel\nBäume\nx"
    expect { described_class.of(" \n ") }.to raise_error(described_class::Unreadable, /empty/)
  end
end
