# frozen_string_literal: true

require_relative "../support/smtp_sink"

RSpec.describe "Letters by mail" do
  let(:here) { orchard }
  let(:sink) { SmtpSink.new }
  let(:letters) { Vestry::DB[:letters] }

  before { allow(Vestry::Settings).to receive(:smtp).and_return(sink.address) }
  after { sink.close }

  # The queue does what it is given at once, as it does in specs.
  def post(address: "orla@maunder.example", orchard: here, subject: "Two due: Süßkirsche", body: "A1 B: look\n.\nå\n")
    Vestry::Deeds::PostLetter.call(Vestry::Outside::Outbox::Letter.new(address: address, subject: subject, body: body,
                                                                        orchard: orchard))
  end

  # One in the outbox that nothing sends yet.
  def waiting
    Vestry::Outside::Outbox.post(Vestry::Outside::Outbox::Letter.new(address: "orla@maunder.example", subject: "a",
                                                                     body: "b", orchard: here))
  end

  def quietly
    yield
  rescue Vestry::Outside::MailService::Silent
    nil
  end

  it "sends a letter once, with its words whole in any script, and says that it was sent" do
    post
    taken = sink.letters
    expect(taken.map(&:to)).to eq [["orla@maunder.example"]]
    mail = Mail.read_from_string(taken.first.data)
    expect([mail.subject, mail.body.decoded.force_encoding("UTF-8").tr("\r", "")])
      .to eq ["Two due: Süßkirsche", "A1 B: look\n.\nå\n"]
    expect(mail.from).to eq ["vestry@#{URI(Vestry::Settings.address).host}"]
    expect(mail.header["Auto-Submitted"].to_s).to eq "auto-generated"
    expect(letters.first).to include(trouble: nil, delivered_at: be_a(Time), body: "A1 B: look\n.\nå\n")
    Vestry::Deeds::PostLetter.send_on(letters.get(:id))
    expect(sink.letters).to eq []
  end

  it "keeps nothing of a sent letter that was for one person alone" do
    post(orchard: nil, body: "https://orchard.example/reset?key=1_abc")
    expect(sink.letters.first.data).to include "key=1_abc"
    expect(letters.get(:body)).to eq "(sent)"
    expect(Vestry::Outside::Outbox.personal(5)).to eq []
  end

  it "asks again where the service is busy or away, and says so, and never again where it refuses" do
    sink.mood = :busy
    id = waiting
    expect { Vestry::Deeds::PostLetter.send_on(id) }.to raise_error(Vestry::Outside::MailService::Silent)
    expect(letters[id: id]).to include(delivered_at: nil, trouble: a_string_including("try again later"))
    sink.mood = :well
    Vestry::Deeds::PostLetter.send_on(id)
    expect([letters[id: id][:trouble], sink.letters.size]).to eq [nil, 1]

    sink.mood = :refuses
    post(address: "nobody@maunder.example")
    expect(letters.order(:id).last).to include(delivered_at: nil, trouble: a_string_including("no such person"))

    allow(Vestry::Settings).to receive(:smtp).and_return("smtp://127.0.0.1:9")
    expect { Vestry::Deeds::PostLetter.send_on(waiting) }.to raise_error(Vestry::Outside::MailService::Silent)
    expect(letters.order(:id).last[:trouble]).to include "refused"
  end

  it "signs in with the name and the password it was given" do
    closed = SmtpSink.new(password: "a secret")
    allow(Vestry::Settings).to receive(:smtp).and_return(closed.address)
    post
    expect(closed.letters.size).to eq 1
    allow(Vestry::Settings).to receive(:smtp).and_return(closed.address.sub("secret", "guess"))
    expect { post }.to raise_error(Vestry::Outside::MailService::Silent, /not it/)
  ensure
    closed&.close
  end

  it "puts no heading of its own into a letter" do
    post(subject: "Due\r\nBcc: everyone@elsewhere.example")
    mail = Mail.read_from_string(sink.letters.first.data)
    expect([mail.bcc, mail.to, mail.subject]).to match [nil, ["orla@maunder.example"], /Bcc: everyone/]
  end

  it "leaves letters in the outbox where no service is named" do
    allow(Vestry::Settings).to receive(:smtp).and_return(nil)
    expect { post }.not_to(change { Vestry::DB[:que_jobs].count })
    expect(letters.first).to include(delivered_at: nil, trouble: nil)
  end

  it "is looked at by the check of the installation" do
    mail = -> { Vestry::Outside::SelfCheck.all.find { |finding| finding.what == "mail" } }
    expect(mail.call).to have_attributes(ok: true)
    allow(Vestry::Settings).to receive(:smtp).and_return("smtp://127.0.0.1:9")
    expect(mail.call).to have_attributes(ok: false, words: /does not answer/)
  end

  it "sends one letter where two send at once" do
    id = waiting
    Array.new(3) { Thread.new { quietly { Vestry::Deeds::PostLetter.send_on(id) } } }.each(&:join)
    expect(sink.letters.size).to eq 1
  end
end
