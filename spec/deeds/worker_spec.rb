# frozen_string_literal: true

RSpec.describe Vestry::Deeds::Jobs::Worker do
  it "takes nobody with it where a thread of the queue ends as it begins, and begins anew" do
    stub_const("#{described_class}::PAUSE", 0.1)
    said = Queue.new
    allow(Que::Locker).to receive(:new) do
      # As the queue's own threads do.
      Thread.new do
        Thread.current.report_on_exception = false
        Thread.current.abort_on_exception = true
        said << Thread.current.abort_on_exception
        raise "the database is away"
      end.join
    end
    worker = described_class.begin
    expect(Array.new(3) { said.pop }).to eq [false] * 3
    worker.stop
    other = Thread.new do
      Thread.current.abort_on_exception = true
      Thread.current.abort_on_exception
    end
    expect(other.value).to be true
  end
end
