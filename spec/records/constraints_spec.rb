# frozen_string_literal: true

RSpec.describe "What the database itself refuses" do
  let(:here) { orchard }
  let(:there) { orchard }

  it "keeps an orchard's rows from pointing into another's" do
    elsewhere = tree(there)
    expect { limb(elsewhere, orchard_id: here.id) }.to raise_error(Sequel::ForeignKeyConstraintViolation)
    expect { graft(limb(tree(here)), variety_id: variety(there).id) }
      .to raise_error(Sequel::ForeignKeyConstraintViolation)
  end

  it "keeps a side branch on its own tree" do
    other = limb(tree(here))
    expect { limb(tree(here), "A1", parent_id: other.id) }.to raise_error(Sequel::ForeignKeyConstraintViolation)
  end

  { girth_mm: 0, length_mm: -5, bearing_deg: 360, rise_deg: 91, fork_mm: -1, flat_deg: -1 }.each do |column, value|
    it "refuses a limb with #{column} #{value}" do
      standing = tree(here)
      expect { limb(standing, column => value) }.to raise_error(Sequel::CheckConstraintViolation)
    end
  end

  it "refuses a limb whose bark leaves no wood, and says what is allowed" do
    standing = tree(here)
    refused = [{ girth_mm: 60, bark_mm: 10 }, { girth_mm: nil, wide_mm: 20, narrow_mm: 20, bark_mm: 10 }].map do |facts|
      Vestry::DB.transaction(savepoint: true) { limb(standing, "B", **facts) }
    rescue Sequel::CheckConstraintViolation => e
      e.message[/constraint "(\w+)"/, 1]
    end
    expect(refused).to eq %w[wood_under_bark wood_under_bark]
    expect(limb(standing, "C", girth_mm: 63, bark_mm: 10).bark_mm).to eq 10
  end

  it "says which column it refused, and what is allowed" do
    refused = begin
      tree(here, planted_year: 1600)
    rescue Sequel::CheckConstraintViolation => e
      e
    end
    expect(Vestry::Records::Archive::Limits.words(refused)).to eq [:planted_year, "is not 1700 to 2200"]
    expect(Vestry::Records::Archive::Limits.words(RuntimeError.new("something else"))).to be_nil
  end

  it "refuses a limb without any thickness, and two of a tag on one tree" do
    standing = tree(here)
    expect { limb(standing, girth_mm: nil) }.to raise_error(Sequel::CheckConstraintViolation)
    limb(standing, "B")
    expect { limb(standing, "B") }.to raise_error(Sequel::UniqueConstraintViolation)
  end

  it "finds a row only through its own orchard" do
    elsewhere = tree(there)
    expect { here.tree!(elsewhere.id) }.to raise_error(Vestry::Records::Missing)
    gone = tree(here, hidden_at: Time.now.utc)
    expect { here.tree!(gone.id) }.to raise_error(Vestry::Records::Missing)
    ["0", "-1", "abc", "99999999999999", nil, "1; drop table trees"].each do |id|
      expect { here.tree!(id) }.to raise_error(Vestry::Records::Missing)
    end
  end
end
