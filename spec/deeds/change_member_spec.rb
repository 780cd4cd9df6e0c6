# frozen_string_literal: true

# Someone leaves an orchard, or may do less there from now on.
RSpec.describe Vestry::Deeds::ChangeMember do
  let!(:here) { orchard }
  let!(:orla) { person("Orla Finch", steward: here) }
  let(:apple) { tree(here) }
  let!(:ann) { join("Ann Sedge") }

  def join(name)
    link = Vestry::Deeds::InvitePerson.call(here, role: "steward", name: name, by: "Orla Finch")
    address = "#{name.split.first.downcase}@trial.example"
    Vestry::Deeds::InvitePerson.accept(link, name: name, email: address, password_hash: "x")
  end

  def change(account, role)
    described_class.call(here, Vestry::Records::Membership.between(account, here).id, role, by: "Orla Finch")
  end

  def invited(by) = Vestry::Deeds::InvitePerson.call(here, role: "steward", name: "x", by: by)
  def good?(link) = !Vestry::Records::Invite.good(link).nil?

  def taken_on(tag)
    stub = limb(apple, tag)
    Vestry::Deeds::DecideLimb.call(stub, { role: "work", technique: "rind", cut: 700.0, practice: "pair",
                                           variety: variety(here, "V#{tag}").id, against_reason: "so", season: 2026 },
                                   by: "Orla Finch", season: 2026)
    Vestry::Deeds::TakeOnLimb.call(stub, by: "Ann Sedge", mine: true)
    Vestry::Records::Limb[stub.id]
  end

  it "ends the links by which one who left, or is no steward any more, could come back or let others in" do
    [nil, "grafter"].each do |role|
      link, other = invited("Ann Sedge"), invited("Orla Finch")
      change(ann, role)
      expect([role, good?(link), good?(other)]).to eq [role, false, true]
      Vestry::Deeds::InvitePerson.accept(invited("Orla Finch"), account: ann)
    end
    link = invited("Ann Sedge")
    change(ann, "steward")
    expect(good?(link)).to be true
  end

  it "gives back the limbs that one who left took on, but for those that were grafted, and the aftercare" do
    waits, grafted = taken_on("A"), taken_on("B")
    graft(grafted, grafter: "Ann Sedge", grafted_on: World::TODAY)
    tended = graft(limb(apple, "C"), grafter: "Orla Finch")
    Vestry::Deeds::HandOver.call([tended], to: "Ann Sedge", by: "Orla Finch")
    change(ann, "grafter")
    expect(tended.refresh.tended_by).to eq "Ann Sedge"
    change(ann, "viewer")
    expect([waits, grafted].map { |each| Vestry::Records::Limb[each.id].planned.hand }).to eq [nil, "Ann Sedge"]
    expect(tended.refresh.tended_by).to be_nil
    expect(Vestry::DB[:history].where(table_name: "plan_limbs", row_id: waits.planned.id).order(:id).last)
      .to include(who: "Orla Finch", why: "Ann Sedge is a viewer now")
  end

  # Ann is let go while she does what is in the block: she waits, and finds it so.
  def let_go_meanwhile
    member = Vestry::Records::Membership.between(ann, here)
    told = nil
    Vestry::DB.transaction do
      change(ann, nil)
      hers = Thread.new do
        yield
        "done"
      rescue Vestry::Deeds::Refused => e
        e.words
      end
      until_waiting
      told = hers
    end
    expect(member.reload.hidden?).to be true
    told.value
  end

  it "lets nobody take a limb on, or let others in, at the moment in which they are let go" do
    stub = taken_on("A")
    Vestry::Deeds::TakeOnLimb.call(stub, by: "Ann Sedge", mine: false)
    again = -> { Vestry::Deeds::TakeOnLimb.call(Vestry::Records::Limb[stub.id], by: "Ann Sedge", mine: true) }
    expect(let_go_meanwhile(&again)).to match(/Ann Sedge no longer grafts here/)
    expect(Vestry::Records::Limb[stub.id].planned.hand).to be_nil
    Vestry::Deeds::InvitePerson.accept(invited("Orla Finch"), account: ann)
    expect(let_go_meanwhile { invited("Ann Sedge") }).to match(/is a steward's to give/)
    expect(Vestry::Records::Invite.where(invited_by: "Ann Sedge").count).to eq 0
  end
end
