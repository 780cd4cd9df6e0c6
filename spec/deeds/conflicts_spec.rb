# frozen_string_literal: true

RSpec.describe "Facts that would stand twice" do
  let!(:here) { orchard }
  let!(:stock) { tree(here) }
  let!(:stub) { limb(stock, "B") }
  let(:kind) { variety(here) }
  let(:today) { World::TODAY }

  def values(**more)
    { grafted_on: today, technique: "rind", variety_id: kind.id, stub_mm: 60.0, sticks: 2,
      faces: Sequel.pg_array([], :numeric), grafter: "Orla Finch", wrap: "stretch-tape", seal: "wax", cover: "wax-only",
      perch: false, brace: false }.merge(more)
  end

  def log(**more) = Vestry::Deeds::LogGraft.call(stub, values(**more), by: "Orla Finch", today: today)

  describe "a limb logged twice on one day" do
    it "is asked about, by whichever way it comes, and kept when told that it is another" do
      log(client_key: SecureRandom.uuid, grafter: "Tam Reddaway")
      expect { log(client_key: SecureRandom.uuid) }
        .to raise_error(Vestry::Deeds::Refused) { |e| expect(e.errors[:again].first)
          .to match(/A1 B was logged on that day already: Skylark Russet, rind graft, by Tam Reddaway/) }
      expect { log }.to raise_error(Vestry::Deeds::Refused)
      log(again: true)
      log(grafted_on: today - 1)
      expect(stub.grafts_dataset.count).to eq 3
    end

    it "is one graft when the same form is sent again" do
      key = SecureRandom.uuid
      expect(log(client_key: key).id).to eq log(client_key: key).id
    end

    it "is asked about when two phones send at once" do
      kind
      threads = Array.new(4) do
        Thread.new do
          log(client_key: SecureRandom.uuid)
          :kept
        rescue Vestry::Deeds::Refused => e
          e.errors.keys.first
        end
      end
      expect(threads.map(&:value).tally).to eq(kept: 1, again: 3)
      expect(Vestry::Records::Graft.where(limb_id: stub.id).count).to eq 1
    end
  end

  describe "a tag" do
    def add(tag)
      Vestry::Deeds::SurveyLimbs.call(stock, [{ tag: tag, girth_mm: 200.0 }], by: "Orla Finch", today: today)
    end

    it "stands once on a tree, however it is written, in sight or taken away" do
      expect { add("b") }.to raise_error(Vestry::Deeds::Refused, /has a limb b already/)
      Vestry::Deeds::Hide.call(stub, by: "Orla Finch")
      expect { add("b") }.to raise_error(Vestry::Deeds::Refused, /taken away: bring it back/)
      expect { limb(stock, "b") }.to raise_error(Sequel::UniqueConstraintViolation)
    end
  end

  describe "bringing back" do
    it "is refused for what stands on something out of sight" do
      made = graft(stub)
      Vestry::Deeds::Hide.call(made, by: "Orla Finch")
      Vestry::Deeds::Hide.call(stub, by: "Orla Finch")
      Vestry::Deeds::Hide.call(stock, by: "Orla Finch")
      expect { Vestry::Deeds::Hide.undo(stub.refresh, by: "Orla Finch") }
        .to raise_error(Vestry::Deeds::Refused, /A1 is out of sight itself/)
      expect { Vestry::Deeds::Hide.undo(made.refresh, by: "Orla Finch") }
        .to raise_error(Vestry::Deeds::Refused, /out of sight itself/)
      Vestry::Deeds::Hide.undo(stock.refresh, by: "Orla Finch")
      Vestry::Deeds::Hide.undo(stub.refresh, by: "Orla Finch")
      expect([stub.refresh.hidden_at, made.refresh.hidden_at.nil?]).to eq [nil, false]
    end
  end

  describe "limb lines" do
    def keep(text, **more)
      Vestry::Deeds::LimbLines.new(stock.refresh, text).then do |lines|
        [lines.keep(by: "Orla Finch", today: today, sure: false, **more).map(&:tag),
         lines.rest(sure: false).map(&:text)]
      end
    end

    it "keeps the good ones and leaves the bad, with those that grow from them" do
      kept, left = keep("C ne girth 40 cm\nD leaning girth 200\nD1 on D girth 90\nC1 on C girth 90\nE girth 200")
      expect(kept).to eq %w[C C1 E]
      expect(left).to eq ["D leaning girth 200", "D1 on D girth 90"]
      expect(stock.limbs_dataset.where(tag: "C").get(%i[girth_mm thickness_typed])).to eq [400, "40 cm"]
    end

    it "leaves those that are asked about, and what grows from them, until told" do
      limb(stock, "C", girth_mm: 200)
      text = "D girth 200\nC1 on C girth 300\nC2 on C1 girth 100"
      expect(keep(text)).to eq [%w[D], ["C1 on C girth 300", "C2 on C1 girth 100"]]
      lines = Vestry::Deeds::LimbLines.new(stock.refresh, "C1 on C girth 300\nC2 on C1 girth 100")
      expect(lines.keep(by: "Orla Finch", today: today, sure: true).map(&:tag)).to eq %w[C1 C2]
    end
  end
end
