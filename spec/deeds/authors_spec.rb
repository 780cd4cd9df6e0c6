# frozen_string_literal: true

# Who did something is an account: a second person of the same name is another, and a file writes as nobody.
RSpec.describe "Whose deed it is" do
  let!(:here) { orchard }
  let!(:first) { person("Orla Finch", steward: here) }

  def join(name, email)
    link = Vestry::Deeds::InvitePerson.call(here, role: "steward", name: name, by: "Orla Finch")
    Vestry::Deeds::InvitePerson.accept(link, name: name, email: email, password_hash: "x")
  end

  def history = Vestry::DB[:history].where(orchard_id: here.id).order(:id)

  it "tells two people of one name apart in their orchard" do
    second = join("Orla Finch", "another@trial.example")
    third = join("orla finch", "third@trial.example")
    expect([first, second, third].map { |each| each.name_in(here) })
      .to eq ["Orla Finch", "Orla Finch 2", "orla finch 3"]
    Vestry::Deeds::KeepVariety.call(here, { name: "New One", species: "apple" }, by: second.name_in(here))
    expect(history.where(table_name: "varieties").select_map(%i[who account_id])).to eq [["Orla Finch 2", second.id]]
    expect(Vestry::Records::Membership.hands(here)).to eq ["Orla Finch", "Orla Finch 2", "orla finch 3"]
  end

  it "keeps the name of one who left from the next" do
    member = Vestry::Records::Membership.first(account_id: join("Tam Reddaway", "tam@trial.example").id)
    Vestry::Deeds::ChangeMember.call(here, member.id, nil, by: "Orla Finch")
    expect(join("Tam Reddaway", "other@trial.example").name_in(here)).to eq "Tam Reddaway 2"
  end

  it "gives two who join at the same moment names of their own" do
    accounts = Array.new(5) { |i| Vestry::Records::Account.create(name: "Sam Lee", email: "sam#{i}@trial.example") }
    accounts.map { |account| Thread.new { Vestry::Records::Membership.create(orchard_id: here.id,
      account_id: account.id, role: "grafter") } }.each(&:join)
    expect(accounts.map { |each| each.name_in(here) })
      .to match_array ["Sam Lee", "Sam Lee 2", "Sam Lee 3", "Sam Lee 4", "Sam Lee 5"]
  end

  it "is whoever brings a file in, whomever it names, with the file's name beside it" do
    tam = join("Tam Reddaway", "tam@trial.example")
    made = graft(limb(tree(here)))
    text = "graft,seen_on,buds,seen_by\n#{made.limb.tree.label} #{made.limb.tag} " \
           "2026-04-21,2026-05-12,swelling,Orla Finch\n"
    import = Vestry::Deeds::ImportFile.preview(here, "visits", "visits.csv", text.b, by: tam.name_in(here),
                                            today: World::TODAY)
    expect(import.faults).to eq []
    Vestry::Deeds::ImportFile.begin(import)
    Vestry::Deeds::ImportFile.write(import.reload, today: World::TODAY)
    expect(Vestry::DB[:observations].where(graft_id: made.id).select_map(:seen_by)).to eq ["Tam Reddaway"]
    expect(history.where(table_name: "observations").select_map(%i[who account_id why]))
      .to eq [["Tam Reddaway", tam.id, "from the file visits.csv"]]
  end

  it "is nobody's account where a packed orchard says so of its own past" do
    read = Vestry::Records::Archive.read(File.join(Vestry::ROOT, "demo/maunder-hill"))
    Vestry::Records::Membership.create(orchard_id: read.id, account_id: first.id, role: "steward")
    told = Vestry::DB[:history].where(orchard_id: read.id)
    expect([told.count.positive?, told.exclude(account_id: nil).count]).to eq [true, 0]
  end

  it "reaches the other's letters by account, where two change the same" do
    second = join("Orla Finch", "another@trial.example")
    kept = Vestry::Deeds::KeepVariety.call(here, { name: "New One", species: "apple" }, by: second.name_in(here))
    Vestry::Deeds::KeepVariety.call(here, { notes: "first" }, by: second.name_in(here), variety: kept,
        version: kept.version)
    expect { Vestry::Deeds::KeepVariety.call(here, { notes: "second" }, by: "Orla Finch", variety: kept.reload,
                                             version: 1) }.to raise_error(Vestry::Deeds::Conflict)
    expect(Vestry::DB[:letters].select_map(:address)).to eq ["another@trial.example"]
  end
end
