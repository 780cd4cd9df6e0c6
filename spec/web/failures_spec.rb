# frozen_string_literal: true

require "rack/test"
require "stringio"

RSpec.describe "What breaks" do
  let(:log) { StringIO.new }

  def broken(app = ->(_) { raise "a secret of the inside" }, path = "/o/nowhere/survey", **more)
    Vestry::Outside::FailureLog.writing_to(log) do
      Vestry::Web::Stack::Steady.new(app, raising: false).call(Rack::MockRequest.env_for(path, **more))
    end
  end

  it "is told with an id that stands in the log once, in a page that needs no orchard and no records" do
    status, headers, body = broken
    id = body.join[/<b>(\h{8})<\/b>/, 1]
    expect([status, headers["content-type"]]).to eq [500, "text/html; charset=utf-8"]
    expect(body.join).not_to include("a secret")
    lines = log.string.lines.map { |line| JSON.parse(line) }
    expect(lines.map { |line| line.values_at("failure", "error", "path") })
      .to eq [[id, "RuntimeError", "/o/NAME/survey"]]
    expect(lines.first["trace"].first).to include("spec/web/failures_spec.rb")
  end

  it "is told to programs as a problem" do
    status, headers, body = broken(->(_) { raise "x" }, "/api/orchards")
    expect([status, headers["content-type"], JSON.parse(body.join)["title"]])
      .to match [500, "application/problem+json", /\(\h{8}\)/]
  end

  it "is not what nobody may see, what is not there and what is refused: these write no trace" do
    here = orchard
    app = Vestry::Web::Stack.build
    statuses = Vestry::Outside::FailureLog.writing_to(log) do
      [["GET", "/api/orchards/#{here.slug}"], ["GET", "/nothing/at/all"], ["GET", "/o/#{here.slug}/survey"],
       ["POST", "/sign-in"]].map do |method, path|
        app.call(Rack::MockRequest.env_for(path, method: method, errors: log)).first
      end
    end
    expect(statuses).to eq [401, 302, 302, 403]
    expect(log.string).to eq ""
  end

  it "is told by a page of its own where the records cannot be reached, and /health says so" do
    allow(Vestry::DB).to receive(:get).and_raise(Sequel::DatabaseConnectionError, "gone")
    allow(Vestry::Records::ApiToken).to receive(:good).and_raise(Sequel::DatabaseDisconnectError, "gone")
    app = Vestry::Web::Stack.build
    answers = ["/health", "/api/orchards"].map do |path|
      app.call(Rack::MockRequest.env_for(path, "HTTP_AUTHORIZATION" => "Bearer x"))
        .then do |status, headers, body|
          [status, headers["content-type"], body.respond_to?(:join) ? body.join : body.each.to_a.join]
        end
    end
    expect(answers[0]).to eq [503, "text/plain", "no records\n"]
    expect(answers[1]).to match [503, "application/problem+json", /cannot be reached/]
  end

  it "cannot be read as text" do
    app = Vestry::Web::Stack.build
    paths = ["/sign-in?a=%FF", "/sign-in?a=%00", "/sign-in?a=1&a[b]=2", "/sign-in?a%FF=1", "/%FF", "/sign-in?a=%ZZ"]
    expect(paths.map { |path| app.call(Rack::MockRequest.env_for("/").merge("PATH_INFO" => path[/\A[^?]+/],
      "QUERY_STRING" => path[/\?(.*)/, 1].to_s)).first }).to eq [400] * 6
  end
end
