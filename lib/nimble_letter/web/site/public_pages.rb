# frozen_string_literal: true

require "sinatra/base"

module NimbleLetter
  module Web
    # The pages that letters lead to: the open pixel, the link redirect and the way out. No sign-in; every address carries
    # a signed token, and one that was tampered with leads nowhere and says so.
    class PublicPages < Sinatra::Base
      # The smallest GIF there is: one transparent pixel.
      PIXEL = ["47494638396101000100800000000000ffffff21f90401000000002c000000000100010000020144003b"].pack("H*").freeze

      set :views, File.join(__dir__, "views")
      set :environment, :production
      set :show_exceptions, false
      set :raise_errors, true # a database in trouble is DatabaseTrouble's to tell
      set :host_authorization, {permitted_hosts: []}
      disable :static, :sessions, :logging, :protection

      # What a letter leads to says who reads it, and is kept nowhere on the way.
      before { cache_control :no_store }

      not_found { erb :not_ours }

      # A picture of the library: whoever has its key may see it, since mail programs sign in nowhere. It never changes.
      get %r{/p/([\w-]{16,32})\.(?:jpg|png)} do |key|
        picture = Records::Picture.first(key: key)
        halt 404 unless picture
        content_type picture.mime
        cache_control :public, :immutable, max_age: 31_536_000
        headers "cross-origin-resource-policy" => "cross-origin"
        picture.data
      end

      # What stands below a test letter.
      get "/u/test" do
        erb :test_way_out
      end

      get "/o/:token.gif" do
        delivery, = delivery_for(:open)
        note("opened", delivery) if delivery
        content_type "image/gif"
        headers "cross-origin-resource-policy" => "cross-origin"
        PIXEL
      end

      get "/c/:token" do
        delivery, link = delivery_for(:click)
        # The address comes from the letter as it was sent, never from the request: no open redirect.
        href = delivery&.links&.[](link.to_i)
        halt 404 unless href
        note("clicked", delivery, link: href)
        redirect href, 302
      end

      # RFC 8058 3.2: a GET must not take anybody off, since scanners follow links.
      get "/u/:token" do
        @delivery, = delivery_for(:unsubscribe)
        halt 404 unless @delivery
        @firm = Records::Firm.current
        erb :way_out
      end

      post "/u/:token" do
        delivery, = delivery_for(:unsubscribe)
        halt 404 unless delivery
        Work::Happening.call("unsubscribed", at: settings.clock.now, person_id: delivery.person_id, delivery: delivery)
        @firm = Records::Firm.current
        erb :gone
      end

      private

      # @return [Array(Records::Delivery, Integer), nil]
      def delivery_for(purpose)
        found, key, link = settings.tokens.read(params[:token])
        return unless found == purpose

        delivery = Records::Delivery.first(key: key)
        delivery && [delivery, link]
      end

      def note(kind, delivery, link: nil)
        now = settings.clock.now
        machine = Core::MailReading::MachineTouch.machine?(
          agent: request.user_agent,
          purpose: request.get_header("HTTP_SEC_PURPOSE"),
          since_sent_seconds: delivery.sent_at ? now - delivery.sent_at : Float::INFINITY
        )
        Work::Touch.call(kind, delivery, at: now, by_machine: machine, link: link)
      end
    end
  end
end
